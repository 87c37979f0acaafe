"""The addresses of the other doors."""

from ninja import Router

from .record_files import router as record_files

router = Router()
router.add_router("", record_files)
