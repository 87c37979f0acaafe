"""The addresses of the other doors."""

from ninja import Router

from .calls import router as calls
from .filling import router as filling
from .links import router as links
from .record_files import router as record_files
from .tokens import router as tokens

router = Router()
for part in (record_files, links, filling, tokens, calls):
    router.add_router("", part)
