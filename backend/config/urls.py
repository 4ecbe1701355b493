"""Addresses: the API, and for everything else the one page of the interface."""

from allauth.socialaccount.providers.openid_connect.views import callback
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.urls import include, path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.generic import RedirectView

from config.api import api
from foundation.problems import no_such_address


@ensure_csrf_cookie
def interface(_request: HttpRequest) -> HttpResponse:
    """The built page; its own router decides what to show."""
    index = settings.FRONTEND_FOLDER / "index.html"
    if not index.exists():
        return HttpResponse("The interface is not built yet: ./relay start builds it.", status=503)
    answer = HttpResponse(index.read_bytes())
    answer["Cache-Control"] = "no-cache"
    return answer


handler404 = "foundation.problems.no_such_address"
urlpatterns = [
    path("api/v1/", api.urls),
    # An account has the one address that was invited.
    re_path(r"^api/auth/browser/v1/account/(?:email|phone)", no_such_address),
    path("api/auth/", include("allauth.headless.urls")),
    # Where the company's directory sends people back to.
    path("api/auth/oidc/<provider_id>/callback", callback, name="openid_connect_callback"),
    *([path("stand-in/directory/", include("demo.directory.urls"))] if settings.DEMO else []),
    # Given out before the API had a version: calendars that phones read.
    path("api/planning/calendar/<token>", RedirectView.as_view(url="/api/v1/board/calendar/%(token)s", permanent=True)),
    re_path(r"^(?!api/|assets/|static/|stand-in/).*$", interface),
]
