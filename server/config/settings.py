"""Settings: one machine, one shop, no network needed. What can be set is read from the environment."""

import os
import secrets
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
DATA = Path(os.environ.get("OAK_LEVER_DATA", ROOT / "var"))
"""Where the store, its backups, the log and this installation's secret lie: OAK_LEVER_DATA, or `var` in the checkout.
"""


def _own_secret() -> str:
    """This installation's key, made on first use and kept; ends the program in words where nothing can be kept."""
    path = DATA / "secret"
    try:
        DATA.mkdir(mode=0o700, parents=True, exist_ok=True)
        if path.exists() and path.stat().st_size == 0:
            path.unlink()  # begun on a full disk
        try:
            with open(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
                file.write(secrets.token_urlsafe(50))
        except FileExistsError:
            pass
        except OSError:
            path.unlink(missing_ok=True)  # made and not written: the next start makes it anew
            raise
        return path.read_text()
    except OSError as error:
        raise SystemExit(
            f"Nothing can be kept in {DATA}: {error.strerror}. Free some space on that disk, let this user write "
            "there, or set OAK_LEVER_DATA to another folder; then start again."
        ) from None


SECRET_KEY = _own_secret()
DEBUG = False
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]", *os.environ.get("OAK_LEVER_HOSTS", "").split()]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
USE_TZ = True
TIME_ZONE = "UTC"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
INSTALLED_APPS = ["ninja", "builds"]
MIDDLEWARE = [
    "config.guard.logged",
    "config.guard.front_door",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "config.guard.own_host",
    "config.guard.methods",
    "whitenoise.middleware.WhiteNoiseMiddleware",
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA / "oak-lever.sqlite3",
        "OPTIONS": {
            # A write takes its lock at once, so the revision it was checked against stays the newest until it
            # is stored; and it is on the disk before the screen says "stored".
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA busy_timeout=5000;",
        },
        "CONN_MAX_AGE": None,
    }
}
MOST_BYTES = 2_000_000  # a design file is a few kilobytes
MOST_BYTES_AT = {"/api/bring": 40_000_000}  # another program's shape, in base64
DATA_UPLOAD_MAX_MEMORY_SIZE = max(MOST_BYTES, *MOST_BYTES_AT.values())

STATIC_URL = "/static/"
PAGE = ROOT / "web" / "dist"
WHITENOISE_ROOT = PAGE if PAGE.is_dir() else None  # the server answers, and is tested, without the page too
WHITENOISE_ALLOW_ALL_ORIGINS = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8}\.\w+$"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
SILENCED_SYSTEM_CHECKS = [
    # No cookie is set and no login exists, so that there is nothing for a forged request to use; a write of another
    # site's page is refused by its Origin (config.guard.own_host).
    "security.W003",
    # Served on this machine alone, in the clear: there is no certificate for a shop's bench, and a redirect to TLS
    # would lead nowhere.
    "security.W004",
    "security.W008",
]
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"()": "config.guard.WithoutValues", "format": "%(asctime)s %(levelname)s %(message)s"}},
    "handlers": {"stderr": {"class": "logging.StreamHandler", "formatter": "plain", "level": "ERROR"}},
    "loggers": {
        "django": {"handlers": ["stderr"], "level": "ERROR"},
        "oak_lever": {"handlers": ["stderr"], "level": "INFO"},
    },
}
