"""The addresses of messages: as they are written, and as they went out."""

from ninja import Router

from .outbox import router as outbox
from .templates import router as templates

router = Router()
for part in (templates, outbox):
    router.add_router("", part)
