"""Django's settings. What differs between machines comes from config/environment.py."""

from __future__ import annotations

import os

from csp.constants import NONE, SELF, UNSAFE_INLINE, WASM_UNSAFE_EVAL

from config.environment import OWNER_ONLY, ROOT, Environment

os.umask(OWNER_ONLY)
ENV = Environment()
NAVETA = ENV
SECRET_KEY = ENV.secret_key()
DEBUG = False
ALLOWED_HOSTS = ENV.allowed_hosts
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "csp",
    "people",
    "fleet",
    "control_points",
    "plan",
    "practice",
    "records",
    "operations",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",  # before whitenoise, so that the page itself carries the policy
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "shared.packing.PackMiddleware",
    "shared.errors.ErrorMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "OPTIONS": {}}]

DATABASES = {"default": ENV.database()}

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "people.passwords.NotTheName"},
    {"NAME": "people.passwords.NotOneCharacter"},
]
# A name is shut out at one address only: somebody elsewhere cannot shut out a manager. It ends on its own, and a success
# before it ends the count.
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = 0.25
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_DISABLE_ACCESS_LOG = True
AXES_CLIENT_IP_CALLABLE = "shared.addresses.client_address"
AXES_VERBOSE = False

DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
LANGUAGE_CODE = "en-gb"
USE_TZ = True
TIME_ZONE = ENV.time_zone
SESSION_COOKIE_AGE = 14 * 24 * 3600
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = ENV.https
CSRF_TRUSTED_ORIGINS = [f"https://{host.strip()}" for host in ENV.hosts.split(",") if host.strip()]
SECURE_CONTENT_TYPE_NOSNIFF = True
if ENV.https:
    SECURE_SSL_REDIRECT = True
    SECURE_HSTS_SECONDS = 365 * 24 * 3600
    # Whoever serves Naveta under a name of the firm has not asked it to decide for the firm's other hosts.
    SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]
    if ENV.trusted_proxies:
        SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 3 * 1024 * 1024
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        # WebAssembly is compiled from our own files only: the browser's own core.
        "script-src": [SELF, WASM_UNSAFE_EVAL],
        # The dialogs' scroll lock writes a <style> of its own whose text depends on the scroll bar's width.
        "style-src": [SELF, UNSAFE_INLINE],
        "img-src": [SELF, "data:"],
        # A bridge of this machine, whose devices send their readings (docs/devices.md); others by NAVETA_BRIDGES.
        "connect-src": [SELF, "ws://127.0.0.1:*", "ws://localhost:*", *ENV.allowed_bridges],
        "object-src": [NONE],
        "frame-ancestors": [NONE],
        "base-uri": [SELF],
        "form-action": [SELF],
    }
}

# Photographs and certificates: behind Django's storage, so that another one can hold them.
MEDIA_ROOT = ENV.data / "files"
EMAIL_BACKEND = ENV.mail()["backend"]
EMAIL_FILE_PATH = ENV.mail()["folder"]
EMAIL_HOST, EMAIL_PORT = ENV.smtp_host, ENV.smtp_port
EMAIL_HOST_USER, EMAIL_HOST_PASSWORD = ENV.smtp_user, ENV.smtp_password
EMAIL_USE_TLS, EMAIL_USE_SSL = ENV.smtp_security == "starttls", ENV.smtp_security == "tls"
EMAIL_TIMEOUT = 20
DEFAULT_FROM_EMAIL = ENV.mail_from
WEB_DIST = ROOT / "web" / "dist"
STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.exists() else None
WHITENOISE_INDEX_FILE = True
WHITENOISE_ALLOW_ALL_ORIGINS = False


def immutable_file(path: str, url: str) -> bool:
    """Names under /assets/ carry their content's hash, folders under /core/ too."""
    return url.startswith(("/assets/", "/core/")) and not url.endswith("pack.json")


def never_cached(headers: dict[str, str], path: str, url: str) -> None:
    """The page and the service worker are asked for again each time."""
    if url.endswith((".html", "/", "sw.js", ".webmanifest")):
        headers["Cache-Control"] = "no-cache"


WHITENOISE_IMMUTABLE_FILE_TEST = immutable_file
WHITENOISE_ADD_HEADERS_FUNCTION = never_cached
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
