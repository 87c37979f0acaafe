"""The addresses of the desk: records, their lists, and what waits for whom."""

from ninja import Router

from .lists import router as lists
from .records import router as records

router = Router()
for part in (lists, records):
    router.add_router("", part)
