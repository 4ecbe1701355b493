"""Settings, all from the environment. docs/settings.md lists them."""

import hashlib
from pathlib import Path

import environ
from csp.constants import NONE, SELF
from django.core.exceptions import ImproperlyConfigured

ROOT = Path(__file__).resolve().parent.parent.parent
env = environ.Env()

DEMO = env.bool("RELAY_DEMO", default=False)
# No secret: it is printed at the start of a demo and offered on its sign-in page.
DEMO_PASSWORD = env.str("RELAY_DEMO_PASSWORD", default="") if DEMO else ""
SECRET_KEY = env.str("RELAY_SECRET_KEY", default="")
if len(SECRET_KEY) < 32 or SECRET_KEY.startswith("change-me"):
    raise ImproperlyConfigured("Set RELAY_SECRET_KEY to a secret of at least 32 characters.")
DEBUG = False
ALLOWED_HOSTS = env.list("RELAY_HOSTS", default=["127.0.0.1", "localhost"])
CSRF_TRUSTED_ORIGINS = env.list("RELAY_ORIGINS", default=[])
CACHE_FOLDER = Path(env.str("RELAY_CACHE", default=str(ROOT / ".relay" / "cache")))
# Where `./relay roads import` puts a region of one's own. The demo world lives in the region it ships with.
OWN_REGION_FOLDER = Path(env.str("RELAY_OWN_REGION", default=str(ROOT / ".relay" / "region")))
SHIPPED_REGION_FOLDER = ROOT / "demo" / "region"
# Folder with roads.geojson, land.geojson and areas.geojson of the region served; none: see apps.roads.region.
REGION_FOLDER = Path(env.str("RELAY_REGION")) if env.str("RELAY_REGION", default="") else None

# Who answers for the region. A real service takes their place by another name here: a function that gives a
# core.roads.Geocoder, and one from places to a core.roads.TravelMatrix that has at least these.
GEOCODER = env.str("RELAY_GEOCODER", default="apps.roads.region.address_book")
TRAVEL = env.str("RELAY_TRAVEL", default="apps.roads.travel.matrix_holding")
# Driving is kept for so many places in each process, at fifteen bytes for each pair of them.
TRAVEL_PLACES = env.int("RELAY_TRAVEL_PLACES", default=2200)

# The planner's process, and the secret by which it knows the web process.
PLANNER_URL = env.str("RELAY_PLANNER_URL", default="http://127.0.0.1:8940")
PLANNER_KEY = hashlib.sha256(f"planner {SECRET_KEY}".encode()).hexdigest()

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.auth",
    "django.contrib.postgres",
    "axes",
    "allauth",
    "allauth.account",
    "allauth.mfa",
    "allauth.socialaccount",
    "allauth.socialaccount.providers.openid_connect",
    "allauth.usersessions",
    "allauth.headless",
    "csp",
    "procrastinate.contrib.django",
    "foundation",
    "apps.company",
    "apps.roads",
    "apps.people",
    "apps.accounts",
    "apps.customers",
    "apps.catalogue",
    "apps.pricing",
    "apps.stock",
    "apps.intake",
    "apps.orders",
    "apps.reports",
    "apps.daylogs",
    "apps.open_work",
    "apps.scheduling",
    "apps.appointments",
    "apps.board",
    "apps.supply",
    "apps.quotes",
    "apps.field",
    "apps.messages",
    "apps.set_up",
    *(["demo"] if DEMO else []),
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "allauth.account.middleware.AccountMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
    "apps.accounts.idle.sign_out_idle",
    "apps.accounts.helping.mind_helpers",
    "foundation.once.do_once",
]
ROOT_URLCONF = "config.urls"
ASGI_APPLICATION = "config.asgi.application"
TEMPLATES = [
    {"BACKEND": "django.template.backends.django.DjangoTemplates", "DIRS": [], "APP_DIRS": True, "OPTIONS": {}}
]

DATABASES = {"default": env.db_url("DATABASE_URL")}
DATABASES["default"]["OPTIONS"] = {
    # What a drag asks comes again and again: the server plans such a question once per connection. Planning the eight
    # tables behind a visit took longer than reading them.
    "server_side_binding": True,
    "prepare_threshold": 3,
    # By it the interface knows which processes are there.
    "application_name": f"relay-{env.str('RELAY_PART', default='web')}",
}
# Each request runs in a thread of its own, so connections come from a pool; 0 connects anew each time.
if pool_size := env.int("RELAY_DB_POOL", default=16):
    DATABASES["default"]["OPTIONS"]["pool"] = {"min_size": 2, "max_size": pool_size, "timeout": 10}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "people.Account"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "apps.accounts.backends.AccountBackend"]
PASSWORD_HASHERS = ["django.contrib.auth.hashers.ScryptPasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
# Besides, whoever tries one account after the other: so many failures from one address within the same time.
SIGN_IN_FAILURES_PER_ADDRESS = 40
AXES_CLIENT_IP_CALLABLE = "foundation.origin.client_address"
AXES_RESET_ON_SUCCESS = True
AXES_USERNAME_FORM_FIELD = "email"
AXES_ENABLE_ADMIN = False

# Signing in and one's own account, below /api/auth; see apps.accounts.adapter.
ACCOUNT_ADAPTER = "apps.accounts.adapter.AccountAdapter"
ACCOUNT_USER_MODEL_USERNAME_FIELD = None
ACCOUNT_USER_DISPLAY = "apps.accounts.queries.display_name"
ACCOUNT_LOGIN_METHODS = {"email"}
ACCOUNT_SIGNUP_FIELDS = ["email*", "password1*"]
ACCOUNT_EMAIL_VERIFICATION = "none"  # the invitation proves the address
ACCOUNT_EMAIL_UNKNOWN_ACCOUNTS = False
ACCOUNT_LOGIN_ON_PASSWORD_RESET = True
# Guessed passwords are counted by axes, guessed codes by these. A whole office comes in at eight behind one address.
ACCOUNT_RATE_LIMITS = {"login": "300/m/ip", "login_failed": "100/m/ip,5/300s/key"}
PASSWORD_RESET_TIMEOUT = 7 * 86400
HEADLESS_ONLY = True
HEADLESS_CLIENTS = ("browser",)
HEADLESS_FRONTEND_URLS = {"socialaccount_login_error": "/sign-in"}
MFA_ADAPTER = "apps.accounts.adapter.SecondFactorAdapter"
MFA_SUPPORTED_TYPES = ["totp", "webauthn", "recovery_codes"]
MFA_PASSKEY_LOGIN_ENABLED = True
MFA_TOTP_ISSUER = "Iron Relay"
# Counts of tries, shared by all processes.
CACHES = {"default": {"BACKEND": "django.core.cache.backends.db.DatabaseCache", "LOCATION": "counted_tries"}}

INSECURE = env.bool("RELAY_INSECURE_COOKIES", default=False)
# Over plain HTTP browsers give passkeys to localhost only.
MFA_WEBAUTHN_ALLOW_INSECURE_ORIGIN = INSECURE

# Signing in with the company's own directory, by OpenID Connect; off without an address.
OIDC_URL = env.str("RELAY_OIDC_URL", default="")
OIDC_NAME = env.str("RELAY_OIDC_NAME", default="the company's directory")
SOCIALACCOUNT_ADAPTER = "apps.accounts.directory.DirectoryAdapter"
SOCIALACCOUNT_ONLY = False
SOCIALACCOUNT_STORE_TOKENS = False
SOCIALACCOUNT_PROVIDERS = {
    "openid_connect": {
        "OAUTH_PKCE_ENABLED": True,
        "APPS": [
            {
                "provider_id": "directory", "name": OIDC_NAME, "client_id": env.str("RELAY_OIDC_CLIENT", default=""),
                "secret": env.str("RELAY_OIDC_SECRET", default=""), "settings": {"server_url": OIDC_URL},
            }
        ] if OIDC_URL else [],
    }
}  # fmt: skip
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = not INSECURE
SESSION_COOKIE_NAME = "relay_session"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 14 * 3600
CSRF_COOKIE_NAME = "relay_csrf"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SECURE_HSTS_SECONDS = 0 if INSECURE else 30 * 24 * 3600
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        # The reader of bar codes is compiled in the browser; no other code is.
        "script-src": [SELF, "'wasm-unsafe-eval'"],
        # Positions on the board are inline styles.
        "style-src": [SELF, "'unsafe-inline'"],
        "img-src": [SELF, "data:", "blob:"],
        "worker-src": [SELF, "blob:"],
        "connect-src": [SELF],
        "font-src": [SELF],
        "object-src": [NONE],
        "base-uri": [SELF],
        "frame-ancestors": [NONE],
    }
}

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
# Files of customers and orders. Never served from here directly: only through the API, to who may see the record.
MEDIA_ROOT = Path(env.str("RELAY_FILES", default=str(ROOT / ".relay" / "files")))
# In the ids of our e-mails, so that answers find their way back.
MAIL_DOMAIN = env.str("RELAY_MAIL_DOMAIN", default="iron-relay.invalid")
# The way out for letters to who has an account. The stand-in for a mail server: a folder of letters.
vars().update(env.email_url("RELAY_EMAIL_URL", default=f"filemail:///{ROOT / '.relay' / 'letters'}"))
DEFAULT_FROM_EMAIL = env.str("RELAY_EMAIL_FROM", default=f"office@{MAIL_DOMAIN}")
# Addresses or networks of our own proxies: only what these say of where a request comes from is believed.
TRUSTED_PROXIES = env.list("RELAY_TRUSTED_PROXIES", default=[])
# The stand-in for a mailbox: .eml files put here become requests.
MAILBOX_FOLDER = Path(env.str("RELAY_MAILBOX", default=str(ROOT / ".relay" / "mailbox")))
FRONTEND_FOLDER = ROOT / "frontend" / "dist"
WHITENOISE_ROOT = FRONTEND_FOLDER if FRONTEND_FOLDER.exists() else None
WHITENOISE_INDEX_FILE = False
WHITENOISE_AUTOREFRESH = False
# Whatever the bundler wrote into assets/ has the digest of its content in its name.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[\w-]{8,}\.\w+$"
DATA_UPLOAD_MAX_MEMORY_SIZE = 16 * 1024 * 1024
FILE_UPLOAD_MAX_MEMORY_SIZE = DATA_UPLOAD_MAX_MEMORY_SIZE

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"format": "{asctime} {levelname} {name} {message}", "style": "{"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "plain"}},
    "loggers": {
        **{name: {"level": "WARNING"} for name in ("procrastinate", "axes")},
        # What somebody asked wrongly is answered, and is no news to whoever runs the server.
        "django.request": {"level": "ERROR"},
    },
    "root": {"handlers": ["console"], "level": env.str("RELAY_LOG_LEVEL", default="INFO")},
}
