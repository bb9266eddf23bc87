"""Settings. Everything that changes between installations comes from PLINTO_ variables."""

from __future__ import annotations

import os
import secrets
from contextlib import suppress
from datetime import timedelta
from pathlib import Path

from plinto_core.icc.spaces import INTENTS

ROOT = Path(__file__).resolve().parents[3]
DATA = Path(os.environ.get("PLINTO_DATA", ROOT / "var")).resolve()
with suppress(OSError):
    DATA.mkdir(parents=True, exist_ok=True)
FOLDERS = Path(os.environ.get("PLINTO_FOLDERS", DATA / "folders")).resolve()
"""Where the watched folders lie."""
WEB_DIST = Path(os.environ.get("PLINTO_WEB", ROOT / "web" / "dist"))


def _secret() -> str:
    path = DATA / "secret-key"
    if not path.exists():
        path.write_text(secrets.token_urlsafe(50))
        path.chmod(0o600)
    return path.read_text()


SECRET_KEY = os.environ.get("PLINTO_SECRET_KEY") or _secret()
DEBUG = False


def _list(name: str, default: str) -> list[str]:
    """A variable with commas as its parts, blanks left out."""
    return [part.strip() for part in os.environ.get(name, default).split(",") if part.strip()]


ALLOWED_HOSTS = _list("PLINTO_HOSTS", "localhost,127.0.0.1,[::1],testserver")
WORK_MEMORY = int(float(os.environ.get("PLINTO_WORK_MEMORY", "0")) * 2**30) or int(
    0.6 * os.sysconf("SC_PHYS_PAGES") * os.sysconf("SC_PAGE_SIZE")
)
"""Bytes that one piece of long work may take."""
DOCUMENT_TIMES = max(1.0, float(os.environ.get("PLINTO_DOCUMENT_TIMES", "1")))
"""How much farther than usual documents may go."""
FILE_MEMORY = int(float(os.environ.get("PLINTO_FILE_MEMORY", "2")) * 2**30)
"""Bytes that a file may take while it comes in, or a page while it is drawn."""
WORK_MINUTES = float(os.environ.get("PLINTO_WORK_MINUTES", "15"))
"""Minutes that it may stand still."""
BEHIND_TLS = os.environ.get("PLINTO_TLS", "") in ("1", "true", "yes", "on")
"""A proxy in front ends TLS and says so in X-Forwarded-Proto."""
if BEHIND_TLS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_HSTS_SECONDS = 365 * 86_400
    CSRF_TRUSTED_ORIGINS = [f"https://{host.removeprefix('.')}" for host in ALLOWED_HOSTS]
AUTH_PASSWORD_VALIDATORS = [
    {
        "NAME": "django.contrib.auth.password_validation.MinimumLengthValidator",
        "OPTIONS": {"min_length": 10},
    },
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
]
DEMO_ACCOUNT = {"username": "demo", "password": "ternholm-demo"}

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "rest_framework",
    "drf_spectacular",
    "axes",
    "django_tasks",
    "django_tasks_db",
    "plinto_server.apps.accounts",
    "plinto_server.apps.artwork",
    "plinto_server.apps.profiles",
    "plinto_server.apps.house",
    "plinto_server.apps.conditions",
    "plinto_server.apps.jobs",
    "plinto_server.apps.paths",
    "plinto_server.apps.deliveries",
    "plinto_server.apps.builds",
    "plinto_server.apps.policies",
    "plinto_server.apps.proofs",
    "plinto_server.apps.questions",
    "plinto_server.apps.printers",
    "plinto_server.apps.folders",
    "plinto_server.apps.demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "plinto_server.pages.PageRules",
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
AXES_FAILURE_LIMIT = 6
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
"""One who guesses locks himself out, and not the person whose name he guesses with."""
AXES_RESET_ON_SUCCESS = True
AXES_VERBOSE = False
SILENCED_SYSTEM_CHECKS = ["axes.W002"]
"""Who is locked out is answered by the sign-in itself, in the form of every other answer."""
ROOT_URLCONF = "plinto_server.config.urls"
WSGI_APPLICATION = "plinto_server.config.wsgi.application"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "plinto.sqlite3",
        # A thread keeps its connection: opening one took a third of the time of small requests.
        "CONN_MAX_AGE": 60,
        # A file as in earnest: a database in memory knows other locks than one that is shared.
        "TEST": {"NAME": str(DATA / "test.sqlite3")},
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            # Seconds that a write waits for another; then a request is answered with "try again".
            "timeout": 10,
            "init_command": (
                "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; PRAGMA foreign_keys=ON;"
            ),
        },
    }
}
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}

DATA_UPLOAD_MAX_MEMORY_SIZE = 4 << 20
FILE_UPLOAD_MAX_MEMORY_SIZE = 4 << 20
FILE_UPLOAD_TEMP_DIR = str(DATA / "incoming")
with suppress(OSError):
    Path(FILE_UPLOAD_TEMP_DIR).mkdir(mode=0o700, exist_ok=True)
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_HTTPONLY = True
CSRF_COOKIE_SAMESITE = "Lax"

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": [
        "rest_framework.authentication.SessionAuthentication",
        "plinto_server.apps.accounts.tokens.ScriptTokens",
    ],
    "DEFAULT_PERMISSION_CLASSES": ["rest_framework.permissions.IsAuthenticated"],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": [
        "plinto_server.parsing.BoundedJSONParser",
        "rest_framework.parsers.FormParser",
        "rest_framework.parsers.MultiPartParser",
    ],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "plinto_server.errors.handle",
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Plinto",
    "VERSION": "0.1.0",
    "DESCRIPTION": "Print production colour: separation, press view, delivery, output policies, queue.",
    "SERVE_INCLUDE_SCHEMA": False,
    "OAS_VERSION": "3.1.1",
    "ENUM_NAME_OVERRIDES": {
        "Station": ["absent", "off", "on", "always"],
        "AnswerWay": ["keep", "convert", "assign"],
        "Intent": list(INTENTS),
        "WayOut": ["vivid", "dark", "light"],
        "SavedKind": ["link", "abstract", "baked", "cube"],
        "PatchKind": ["paper", "solid", "overprint", "tone", "grey", "mix"],
    },
}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
