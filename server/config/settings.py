"""Django settings. Everything that differs between machines comes from the environment, here."""

import os
from pathlib import Path

from config.logs import configuration

ROOT = Path(__file__).resolve().parent.parent.parent
VAR = Path(os.environ.get("NUBILIS_VAR", ROOT / "var"))
WEB_DIST = ROOT / "web/dist"

# Set by ./nubilis; a server without a database only writes the API's document.
SECRET_KEY = os.environ.get("NUBILIS_SECRET_KEY", "only for commands that serve nothing")
DEMO = os.environ.get("NUBILIS_DEMO") == "1"
DEBUG = False
# Whether requests come through our own router (launch/router.py).
ROUTED = "NUBILIS_PUBLIC_PORT" in os.environ
# Where people, or a front server, reach us.
BIND = os.environ.get("NUBILIS_BIND", "127.0.0.1")
# Front servers of one's own between people and us: how many, the nearest one's address, and whether they
# speak TLS. Their word counts on where a request comes from, and no word of anybody before them.
TLS = os.environ.get("NUBILIS_TLS") == "1"
HOPS = int(os.environ.get("NUBILIS_HOPS", "1" if TLS else "0"))
PROXY = os.environ.get("NUBILIS_PROXY", "127.0.0.1")
# Figures for whoever watches over it are told on a port of their own, where there is one.
METRICS_BIND = os.environ.get("NUBILIS_METRICS_BIND", "127.0.0.1")
METRICS_PORT = int(os.environ.get("NUBILIS_METRICS_PORT", "0"))
CSRF_TRUSTED_ORIGINS = os.environ.get("NUBILIS_ORIGINS", "").split()
if TLS:
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    # No other name below this one may set them (RFC 6265bis, section 4.1.3.2).
    SESSION_COOKIE_NAME, CSRF_COOKIE_NAME = "__Host-sessionid", "__Host-csrftoken"
    SECURE_HSTS_SECONDS = 60 * 60 * 24 * 365
    SECURE_HSTS_INCLUDE_SUBDOMAINS = os.environ.get("NUBILIS_HSTS_SUBDOMAINS") == "1"
ALLOWED_HOSTS = os.environ.get("NUBILIS_HOSTS", "localhost 127.0.0.1 [::1] testserver").split()

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "config",
    "accounts",
    "shoots",
    "studio",
    "delivery",
    "batches",
    "jobs",
    "references",
    "keys",
    "looks",
    "tether",
    "keeping",
]
MIDDLEWARE = [
    "config.security.guarded",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "config.watching.counted",
    "config.security.head_without_body",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "config.computing.in_turn",
]
ROOT_URLCONF = "config.urls"
TEMPLATES = [{"BACKEND": "django.template.backends.django.DjangoTemplates", "APP_DIRS": True}]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("NUBILIS_DATABASE_NAME", "nubilis"),
        "USER": os.environ.get("NUBILIS_DATABASE_USER", "nubilis"),
        "HOST": os.environ.get("NUBILIS_DATABASE_HOST", "127.0.0.1"),
        "PORT": os.environ.get("NUBILIS_DATABASE_PORT", "33642"),
        "PASSWORD": os.environ.get("NUBILIS_DATABASE_PASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        # Tables straight from the models: that migrations make the same has a test of its own.
        "TEST": {
            "NAME": os.environ.get("NUBILIS_TEST_DATABASE", "test_nubilis"),
            "MIGRATE": False,
        },
        "OPTIONS": {"charset": "utf8mb4", "isolation_level": "read committed"},
    }
}
TEST_RUNNER = "config.runner.SharedRunner"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "accounts.User"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

LANGUAGE_CODE = "en-gb"
USE_I18N = False
USE_TZ = True
TIME_ZONE = "UTC"

STATIC_URL = "static/"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.is_dir() else None
WHITENOISE_INDEX_FILE = False

SESSION_ENGINE = "accounts.sessions"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 30
X_FRAME_OPTIONS = "DENY"

# Recipes refer to their pictures; photos and pictures come as files, straight to disk.
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 2**20
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]
FILE_UPLOAD_TEMP_DIR = VAR / "uploads"
PHOTO_MAX_BYTES = int(os.environ.get("NUBILIS_MAX_UPLOAD_MB", "1200")) * 2**20
# The store of files (shoots/files.py): this folder, or a bucket of any store that speaks S3.
ORIGINALS, ASSETS = VAR / "originals", VAR / "assets"
THUMBNAILS, DELIVERIES = VAR / "thumbnails", VAR / "deliveries"
_LOCAL = {"BACKEND": "django.core.files.storage.FileSystemStorage", "OPTIONS": {"location": VAR}}
_BUCKET = os.environ.get("NUBILIS_S3_BUCKET")
_S3 = {
    "BACKEND": "storages.backends.s3.S3Storage",
    "OPTIONS": {
        "bucket_name": _BUCKET,
        "endpoint_url": os.environ.get("NUBILIS_S3_ENDPOINT") or None,
        "access_key": os.environ.get("NUBILIS_S3_KEY") or None,
        "secret_key": os.environ.get("NUBILIS_S3_SECRET") or None,
        "region_name": os.environ.get("NUBILIS_S3_REGION") or None,
        "file_overwrite": True,
        "querystring_auth": False,
    },
}
STORAGES = {
    "default": _LOCAL,
    "files": _S3 if _BUCKET else _LOCAL,
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
# What was fetched from elsewhere is kept here as long as there is room.
# Megabytes of originals that each person may keep, unless their account says otherwise; 0 for no bound.
QUOTA_MB = int(os.environ.get("NUBILIS_QUOTA_MB", "0"))
COPIES = VAR / "copies"
COPIES_BYTES = int(os.environ.get("NUBILIS_COPIES_MB", "10000")) * 2**20
# Deliveries that are wanted as a folder.
FOLDER_OUT = Path(os.environ.get("NUBILIS_FOLDER_OUT", VAR / "delivered"))
# Seconds without a word of whoever does a piece of work, after which it is somebody else's; and how often one
# whose workers end each time is tried.
JOBS_LOST_AFTER = float(os.environ.get("NUBILIS_JOBS_LOST_AFTER", "60"))
JOBS_ATTEMPTS = int(os.environ.get("NUBILIS_JOBS_ATTEMPTS", "4"))
# Folders that are watched, one for each shoot that is: what lies there is taken in.
FOLDER_IN = Path(os.environ.get("NUBILIS_FOLDER_IN", VAR / "incoming"))
# What each web process and worker may have of the machine's memory: two fifths of it.
_MACHINE_MB = os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES") // 2**20
MEMORY_MB = int(os.environ.get("NUBILIS_MEMORY_MB", max(1500, 2 * _MACHINE_MB // 5)))
# Where workers are woken; without one, threads of the web process do the work.
BROKER = os.environ.get("NUBILIS_BROKER", "")
# Work is done where it is asked for, before the answer: for tests whose transaction no thread could see.
JOBS_AT_ONCE = False
for _folder in (FILE_UPLOAD_TEMP_DIR, ORIGINALS, ASSETS, THUMBNAILS, DELIVERIES, COPIES):
    _folder.mkdir(parents=True, exist_ok=True)

# Where this process writes down what goes on; the launcher names a file for each.
LOGGING = configuration(
    os.environ.get("NUBILIS_LOG", ""), values=os.environ.get("NUBILIS_LOG_VALUES") == "1"
)
