"""What is served."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thistlequartz.server.settings")
if not os.environ.get("THISTLEQUARTZ_SECRET"):
    raise SystemExit("Set THISTLEQUARTZ_SECRET to a long text that nobody else knows; then serve.")
application = get_wsgi_application()
# Read every address beforehand, so that nobody's first call waits for it.
_ = get_resolver().url_patterns
