"""Settings, all from the environment; the start scripts give what a demonstration needs."""

import os
import tempfile
from pathlib import Path
from urllib.parse import unquote

import dj_database_url

from server.environment import read_environment

ROOT = Path(__file__).resolve().parent.parent
INTERFACE = ROOT / "frontend" / "dist"

_said = read_environment()
DEBUG = _said.debug
DEMO = _said.demo
SECRET_KEY = _said.secret_key
ALLOWED_HOSTS = list(_said.hosts)
CSRF_TRUSTED_ORIGINS = list(_said.origins)
BEHIND_HTTPS = _said.https
# How many of the addresses in X-Forwarded-For are our own proxies': what stands before them anybody may have written.
NINJA_NUM_PROXIES = _said.proxies

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "qsessions",
    "django_otp",
    "django_otp.plugins.otp_totp",
    "django_otp.plugins.otp_static",
    "server.account",
    "server.boards",
    "server.library",
    "server.revisions",
    "server.controller_settings",
    "server.controller",
    "server.jobs",
    "server.throttles",
    "server.bench_test",
    "server.assembly",
    "server.rides",
    "server.calibration",
    "django_tasks",
    "django_tasks_db",
    "server.demo",
    "server.operation",
]
MIDDLEWARE = [
    "server.request_logging.each_request",
    "server.errors.in_one_shape",
    "server.text_validation.only_our_hosts",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "qsessions.middleware.SessionMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "server.account.seen.each_day",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "server.reader_locale.in_the_readers_zone",
    "server.text_validation.only_plain_addresses",
    "csp.middleware.CSPMiddleware",
]
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        # Bits UI places its floating parts with inline style attributes.
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:"],
        "frame-ancestors": ["'none'"],
        "base-uri": ["'self'"],
        "form-action": ["'self'"],
        "object-src": ["'none'"],
    }
}
ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"

DATABASES = {"default": dj_database_url.parse(_said.database_url, conn_max_age=60, conn_health_checks=True)}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

# What talks to controllers, and what takes its time, is done by workers: ``manage.py worker link`` and ``worker work``.
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["link", "work"]}}
# Where the simulated controllers keep their memories; they belong to the bench, not to the web tier.
BENCHMARK_FOLDER = _said.bench or Path(tempfile.gettempdir()) / f"sand-pocket-bench-{os.getuid()}"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}"}
    for name in ("UserAttributeSimilarityValidator", "MinimumLengthValidator", "CommonPasswordValidator")
]
# Open, by invitation, or closed.
REGISTRATION = _said.registration
# A link to a new password, for a day.
PASSWORD_RESET_TIMEOUT = 60 * 60 * 24
MAIL_WORKS = _said.mail is not None
EMAIL_TIMEOUT = 20
if _said.mail is not None:
    EMAIL_HOST, EMAIL_PORT = _said.mail.host or "", _said.mail.port or 25
    EMAIL_HOST_USER, EMAIL_HOST_PASSWORD = unquote(_said.mail.username or ""), unquote(_said.mail.password or "")
    EMAIL_USE_SSL = _said.mail.scheme == "smtps"
    EMAIL_USE_TLS = _said.mail.scheme == "smtp+tls"
    DEFAULT_FROM_EMAIL = _said.mail_from
# Which devices a person is signed in on can be seen and ended.
SESSION_ENGINE = "qsessions.backends.db"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 60
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = BEHIND_HTTPS
# The proxy redirects and says HSTS too; here as well, for a proxy that does not.
SECURE_SSL_REDIRECT = BEHIND_HTTPS
SECURE_REDIRECT_EXEMPT = [r"^healthz$", r"^readyz$", r"^metrics$"]
SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365 if BEHIND_HTTPS else 0
# It binds every other name below the operator's domain, and is hard to take back: theirs to say.
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = BEHIND_HTTPS and _said.hsts_preload
SILENCED_SYSTEM_CHECKS = [] if _said.hsts_preload else ["security.W005", "security.W021"]
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if BEHIND_HTTPS else None
SECURE_REFERRER_POLICY = "same-origin"

DATA_UPLOAD_MAX_MEMORY_SIZE = 1024 * 1024
LANGUAGE_CODE = "en"
USE_TZ = True
TIME_ZONE = "UTC"

WHITENOISE_ROOT = INTERFACE if INTERFACE.is_dir() else None
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"request_id": {"()": "server.request_logging.WithRequestId"}},
    "formatters": {
        "text": {"format": "%(levelname)s %(name)s %(message)s"},
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "format": "%(asctime)s %(levelname)s %(name)s %(message)s %(request_id)s",
            "rename_fields": {"asctime": "time", "levelname": "level", "name": "logger"},
        },
    },
    "handlers": {
        "console": {"class": "logging.StreamHandler", "formatter": _said.log, "filters": ["request_id"]},
    },
    "loggers": {
        # Refusals are the answer to a request, not a fault of the server.
        "django.request": {"level": "ERROR"},
        # A line a request, where lines are collected.
        "sand_pocket.request": {"level": "INFO" if _said.log == "json" else "WARNING"},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
}
