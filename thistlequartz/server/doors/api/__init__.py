"""The addresses of the other doors."""

from ninja import Router

from .calls import router as calls
from .record_files import router as record_files
from .tokens import router as tokens

router = Router()
for part in (record_files, tokens, calls):
    router.add_router("", part)
