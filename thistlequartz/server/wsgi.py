"""What gunicorn serves."""

import os

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thistlequartz.server.settings")
application = get_wsgi_application()
# Read every address now, before the workers part, so that nobody's first call waits for it.
_ = get_resolver().url_patterns
