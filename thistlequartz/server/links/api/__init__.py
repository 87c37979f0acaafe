"""The addresses of links: made by stewards, and filled in by visitors."""

from ninja import Router

from .filling import router as filling
from .links import router as links

router = Router()
for part in (links, filling):
    router.add_router("", part)
