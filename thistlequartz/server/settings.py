"""Django's settings; what differs between places comes from THISTLEQUARTZ_* variables."""

import os
import secrets
from pathlib import Path

from csp.constants import NONE, SELF, UNSAFE_INLINE

ROOT = Path(__file__).resolve().parents[2]
WEB = ROOT / "web" / "dist"

SECRET_KEY = os.environ.get("THISTLEQUARTZ_SECRET") or secrets.token_urlsafe(50)
"""Without one of its own, a command draws one that nobody knows; serving demands it."""
DEBUG = False
ALLOWED_HOSTS = os.environ.get("THISTLEQUARTZ_HOSTS", "127.0.0.1,localhost,[::1]").split(",")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "csp",
    "ninja",
    "django_tasks",
    "django_tasks_db",
    "thistlequartz.server.people",
    "thistlequartz.server.activity",
    "thistlequartz.server.forms",
    "thistlequartz.server.releases",
    "thistlequartz.server.records",
    "thistlequartz.server.impact",
    "thistlequartz.server.watch",
    "thistlequartz.server.messages",
    "thistlequartz.server.doors",
    "thistlequartz.server.imports",
    "thistlequartz.server.links",
    "thistlequartz.server.service",
    "thistlequartz.server.webhooks",
    "thistlequartz.server.jobs",
    "thistlequartz.server.bench",
    "thistlequartz.server.findings",
    "thistlequartz.demo",
]

MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "thistlequartz.server.caching.not_kept",
    "thistlequartz.server.media.only_json",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "thistlequartz.server.people.presence.Presence",
]

ROOT_URLCONF = "thistlequartz.server.urls"
WSGI_APPLICATION = "thistlequartz.server.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("THISTLEQUARTZ_DB_NAME", "thistlequartz"),
        "USER": os.environ.get("THISTLEQUARTZ_DB_USER", "thistlequartz"),
        "PASSWORD": os.environ.get("THISTLEQUARTZ_DB_PASSWORD", ""),
        "CONN_MAX_AGE": None,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "unix_socket": os.environ.get("THISTLEQUARTZ_DB_SOCKET", ""),
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            # EXISTS is asked record by record, IN gathers first: the code says which is meant.
            "init_command": "SET SESSION optimizer_switch = 'exists_to_in=off'",
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_bin"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        "OPTIONS": {"min_length": 10},
    },
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.1
"""Hours until a name that was tried too often may sign in again: six minutes."""
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_NAME = "thistlequartz_session"
CSRF_COOKIE_NAME = "thistlequartz_csrf"
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
X_FRAME_OPTIONS = "DENY"

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        # Radix places its floating parts by style attributes.
        "style-src": [SELF, UNSAFE_INLINE],
        "img-src": [SELF, "data:"],
        "object-src": [NONE],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}

DATA_UPLOAD_MAX_MEMORY_SIZE = 1_000_000
"""Bytes in the body of one call."""

ADDRESS = os.environ.get("THISTLEQUARTZ_AT", "http://127.0.0.1")
"""Where this is served, for calls that go to its own stand-in."""
CALLS_TO = [one for one in os.environ.get("THISTLEQUARTZ_CALLS_TO", "").split(",") if one]
"""Other origins that calls may go to, as http://127.0.0.1:9000; without any they stay in here."""

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
"""Background work waits in the database; `manage db_worker` does it."""

EMAIL_BACKEND = "thistlequartz.server.messages.mailing.OutboxBackend"
DEFAULT_FROM_EMAIL = "Thistlequartz <records@thistlequartz.invalid>"
"""Nothing leaves for a net: mail is kept in the database, where its receivers read it."""

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True

WHITENOISE_ROOT = WEB
WHITENOISE_INDEX_FILE = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"
"""What is named by its content is kept for as long as a browser likes."""
STATIC_URL = "/static/"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "filters": {"not_again": {"()": "thistlequartz.server.outages.OutageLogFilter"}},
    "loggers": {
        "django.request": {"level": "ERROR", "filters": ["not_again"]},
        "axes": {"level": "ERROR"},
        "waitress.queue": {"level": "ERROR"},
    },
}
