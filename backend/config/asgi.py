"""Entry point of the web process."""

import gc
import os

from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
_django = get_asgi_application()

from django.conf import settings  # noqa: E402 - Django must be set up first

from foundation.guard import Guard  # noqa: E402

application = Guard(_django, session_cookie=settings.SESSION_COOKIE_NAME)
# What the application itself consists of lives as long as the process: the collector need not walk it again
# and again while a board of thousands of short-lived values is built.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 50)
