"""The addresses of the catalogue, the drafts, and the help in writing them."""

from ninja import Router

from .fields import router as fields
from .forms import router as forms
from .help import router as help_in_writing
from .plan import router as plan
from .rules import router as rules

router = Router()
for part in (forms, fields, rules, plan, help_in_writing):
    router.add_router("", part)
