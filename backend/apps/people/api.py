"""HTTP: the session, technicians, skills."""

from typing import Any

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router
from ninja.utils import check_csrf

from apps.people import commands, queries
from apps.people.models import Account, Skill, Technician
from apps.people.schemas import DemoOut, SessionOut, SignIn, SkillOut, TechnicianOut
from core.roles import ALLOWED, Action, Role
from foundation import clock
from foundation.access import Needs
from foundation.errors import NotFound

session = Router()
router = Router()


@session.get("", response=SessionOut, auth=None)
def current(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in, and what they may do."""
    return _session(request, request.user if request.user.is_authenticated else None)


@session.post("", response=SessionOut, auth=None)
def sign_in(request: HttpRequest, body: SignIn) -> dict[str, Any] | HttpResponse:
    """Begin a session."""
    if refused := check_csrf(request):
        return refused
    return _session(request, commands.sign_in(request, email=body.email, password=body.password))


@session.delete("", response=SessionOut, auth=Needs(Action.USE))
def sign_out(request: HttpRequest) -> dict[str, Any]:
    """End the session."""
    commands.sign_out(request)
    return _session(request, None)


@session.get("/demo", response=DemoOut, auth=None)
def demo(request: HttpRequest) -> dict[str, Any]:
    """The made-up people of the demo, to sign in with one click. Only there in a demo."""
    if not settings.DEMO:
        raise NotFound("This is not a demo.", code="no_demo")
    return {"password": settings.DEMO_PASSWORD, "accounts": queries.demo_accounts()}


@router.get("/technicians/{technician_id}/portrait", auth=Needs(Action.USE), response={200: bytes})
def portrait(request: HttpRequest, technician_id: int) -> HttpResponse:
    """A technician's drawn portrait, as SVG."""
    answer = HttpResponse(queries.portrait(technician_id), content_type="image/svg+xml")
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@router.get("/technicians", response=list[TechnicianOut], auth=Needs(Action.SEE_ORDERS))
def technicians(request: HttpRequest) -> list[Technician]:
    """Everybody who does visits, by name."""
    return queries.technicians()


@router.get("/skills", response=list[SkillOut], auth=Needs(Action.USE))
def skills(request: HttpRequest) -> list[Skill]:
    """All skills."""
    return queries.skills()


def _session(request: HttpRequest, account: Any) -> dict[str, Any]:
    found: Account | None = account
    return {
        "account": found,
        "may": sorted(ALLOWED[Role(found.role)]) if found else [],
        "csrf_token": get_token(request),
        "now": clock.now(),
        "demo": settings.DEMO,
    }
