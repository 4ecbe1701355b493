"""HTTP: the session, technicians, skills, absences, crews."""

from typing import Any, Literal

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile

from apps.people import calendar_files, commands, papers, queries
from apps.people.inputs import CertificateFields, ShiftFields, VehicleFields
from apps.people.models import Account, CertificateKind, Skill, Technician, Vehicle
from apps.people.portraits import portrait_of
from apps.people.schemas import (
    AbsenceIn,
    AbsenceOut,
    CalendarOut,
    CertificatesIn,
    CrewChangeIn,
    CrewIn,
    CrewOut,
    DemoOut,
    EmploymentIn,
    RunningOutOut,
    SessionOut,
    SkillIn,
    SkillsRowOut,
    TechnicianChangeIn,
    TechnicianIn,
    TechnicianOut,
    TechnicianRecordOut,
    TermsIn,
    TermsOut,
    VehicleIn,
    VehicleOut,
    WeekIn,
)
from apps.people.weeks import weeks_of
from core.roles import Action
from foundation import clock
from foundation.access import HELPER, Needs, actor_of
from foundation.errors import NotFound
from foundation.named.api import CodeInPath, serve
from foundation.schemas import Key, MergeInto, UseOut

AbsenceKind = Literal["holiday", "sickness", "training", "other"]
session = Router()
router = Router()
serve(router, "/people/skills", Skill, see=Action.USE, holders=queries.skill_holders)
serve(router, "/people/vehicles", Vehicle, see=Action.SEE_ORDERS)
serve(router, "/people/certificates", CertificateKind, see=Action.SEE_ORDERS, holders=queries.certificate_holders)


@session.get("/session", response=SessionOut, auth=None)
def current(request: HttpRequest) -> dict[str, Any]:
    """Who is signed in, and what they may do."""
    found: Account | None = request.user if request.user.is_authenticated else None
    return {
        "account": found,
        "may": sorted(found.actions) if found else [],
        "csrf_token": get_token(request),
        "now": int(clock.now().timestamp()),
        "demo": settings.DEMO,
        "idle_minutes": queries.idle_minutes_of(found),
        "helper": (request.session.get(HELPER) or {}).get("name") if found else None,
        "directory": settings.OIDC_NAME if settings.OIDC_URL else "",
    }


@session.get("/session/demo", response=DemoOut, auth=None)
def demo(request: HttpRequest) -> dict[str, Any]:
    """The made-up people of the demo, to sign in with one click. Only there in a demo."""
    if not settings.DEMO:
        raise NotFound("This is not a demo.", code="no_demo")
    return {"password": settings.DEMO_PASSWORD, "accounts": queries.demo_accounts()}


@router.get("/technicians/{int:technician_id}/portrait", auth=Needs(Action.USE), response={200: bytes})
def portrait(request: HttpRequest, technician_id: Key) -> HttpResponse:
    """A technician's photo, drawing or initials."""
    found = portrait_of(technician_id)
    answer = HttpResponse(found.content, content_type=found.media_type)
    answer["Cache-Control"] = "private, max-age=3600"
    return answer


@router.post("/technicians/{int:technician_id}/portrait", response={204: None}, auth=Needs(Action.CHANGE_SETTINGS))
def put_photo(request: HttpRequest, technician_id: Key, file: File[UploadedFile]) -> Status[None]:
    """Another photo."""
    commands.put_photo(actor=actor_of(request), now=clock.now(), technician_id=technician_id, content=file.read())
    return Status(204, None)


@router.delete("/technicians/{int:technician_id}/portrait", response={204: None}, auth=Needs(Action.CHANGE_SETTINGS))
def remove_photo(request: HttpRequest, technician_id: Key) -> Status[None]:
    """Show the drawing or the initials again."""
    commands.remove_photo(actor=actor_of(request), now=clock.now(), technician_id=technician_id)
    return Status(204, None)


@router.put(
    "/technicians/{int:technician_id}/certificates", response=TechnicianRecordOut, auth=Needs(Action.CHANGE_SETTINGS)
)
def set_certificates(request: HttpRequest, technician_id: Key, body: CertificatesIn) -> TechnicianRecordOut:
    """All certificates of a technician, with number and end."""
    commands.set_certificates(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version,
        certificates=[CertificateFields(**row.dict()) for row in body.certificates],
    )  # fmt: skip
    return _record(technician_id)


@router.get("/technicians", response=list[TechnicianOut], auth=Needs(Action.SEE_ORDERS))
def technicians(request: HttpRequest) -> list[Technician]:
    """Everybody who does visits, by name."""
    return queries.technicians()


@router.get("/technicians/skills", response=list[SkillsRowOut], auth=Needs(Action.SEE_ORDERS))
def skills_sheet(request: HttpRequest) -> list[SkillsRowOut]:
    """Everybody's skills, by name."""
    return [SkillsRowOut.of(row) for row in queries.technicians_with_skills()]


@router.put("/technicians/{int:technician_id}/skill", response=SkillsRowOut, auth=Needs(Action.CHANGE_SETTINGS))
def set_skill(request: HttpRequest, technician_id: Key, body: SkillIn) -> SkillsRowOut:
    """How well somebody can do one thing."""
    commands.set_skill(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version, code=body.code,
        level=body.level,
    )  # fmt: skip
    return SkillsRowOut.of(queries.technician_record(technician_id))


@router.post("/technicians", response={201: TechnicianRecordOut}, auth=Needs(Action.CHANGE_SETTINGS))
def add_technician(request: HttpRequest, body: TechnicianIn) -> Status[TechnicianRecordOut]:
    """Somebody new."""
    made = commands.add_technician(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, _record(made.pk))


@router.get("/technicians/{int:technician_id}", response=TechnicianRecordOut, auth=Needs(Action.SEE_ORDERS))
def technician(request: HttpRequest, technician_id: Key) -> TechnicianRecordOut:
    """All that is set up of a technician."""
    return _record(technician_id)


@router.put("/technicians/{int:technician_id}", response=TechnicianRecordOut, auth=Needs(Action.CHANGE_SETTINGS))
def change_technician(request: HttpRequest, technician_id: Key, body: TechnicianChangeIn) -> TechnicianRecordOut:
    """Another name, depot, areas or skills."""
    commands.change_technician(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version,
        fields=body.fields(), valid_from=body.valid_from,
    )  # fmt: skip
    return _record(technician_id)


@router.put("/technicians/{int:technician_id}/week", response=TechnicianRecordOut, auth=Needs(Action.CHANGE_SETTINGS))
def set_week(request: HttpRequest, technician_id: Key, body: WeekIn) -> TechnicianRecordOut:
    """The weekly shifts from a day on; the days before it stay as they were."""
    commands.set_week(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version,
        shifts=[ShiftFields(**shift.dict()) for shift in body.shifts], valid_from=body.valid_from,
        weeks=body.weeks,
    )  # fmt: skip
    return _record(technician_id)


@router.put(
    "/technicians/{int:technician_id}/employment", response=TechnicianRecordOut, auth=Needs(Action.CHANGE_SETTINGS)
)
def set_employment(request: HttpRequest, technician_id: Key, body: EmploymentIn) -> TechnicianRecordOut:
    """First and last day; after the last one there are no working hours."""
    commands.set_employment(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version,
        first_day=body.employed_from, last_day=body.employed_until,
    )  # fmt: skip
    return _record(technician_id)


@router.get("/technicians/{int:technician_id}/terms", response=TermsOut, auth=Needs(Action.CHANGE_SETTINGS))
def terms(request: HttpRequest, technician_id: Key) -> TermsOut:
    """Where a technician's day begins and ends, the vehicle, the cost of an hour, and the wishes."""
    return TermsOut.of(queries.technician_terms(technician_id))


@router.put("/technicians/{int:technician_id}/terms", response=TermsOut, auth=Needs(Action.CHANGE_SETTINGS))
def set_terms(request: HttpRequest, technician_id: Key, body: TermsIn) -> TermsOut:
    """Another start or end of the day, vehicle, cost or wishes."""
    commands.set_terms(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, version=body.version,
        fields=body.fields(), valid_from=body.valid_from,
    )  # fmt: skip
    return TermsOut.of(queries.technician_terms(technician_id))


@router.get("/people/running-out", response=list[RunningOutOut], auth=Needs(Action.SEE_BOARD))
def running_out(request: HttpRequest) -> list[papers.RunningOut]:
    """Certificates and inspections that have ended or end within thirty days."""
    return papers.running_out()


@router.get("/people/depots/{int:depot_id}/uses", response=list[UseOut], auth=Needs(Action.SEE_ORDERS))
def uses_of_depot(request: HttpRequest, depot_id: Key) -> list[dict[str, Any]]:
    """Who is at a depot."""
    return [{"what": what, "count": count} for what, count in queries.depot_uses(depot_id)]


@router.post("/people/depots/{int:depot_id}/merge", response={204: None}, auth=Needs(Action.CHANGE_SETTINGS))
def merge_depot(request: HttpRequest, depot_id: Key, body: MergeInto) -> Status[None]:
    """Whoever is at this depot is at the other one from now on; this one is gone."""
    commands.merge_depot(
        actor=actor_of(request), now=clock.now(), depot_id=depot_id, version=body.version, into=body.into
    )
    return Status(204, None)


@router.get("/people/vehicles/{code}", response=VehicleOut, auth=Needs(Action.CHANGE_SETTINGS))
def vehicle(request: HttpRequest, code: CodeInPath) -> VehicleOut:
    """One vehicle, with who drives it."""
    return VehicleOut.of(queries.vehicle(code))


@router.put("/people/vehicles/{code}/facts", response=VehicleOut, auth=Needs(Action.CHANGE_SETTINGS))
def set_vehicle(request: HttpRequest, code: CodeInPath, body: VehicleIn) -> VehicleOut:
    """Another plate, depot, inspection or cost of a kilometre."""
    commands.set_vehicle(
        actor=actor_of(request), now=clock.now(), code=code, version=body.version,
        fields=VehicleFields(**body.dict(exclude={"version"})),
    )  # fmt: skip
    return VehicleOut.of(queries.vehicle(code))


def _record(technician_id: int) -> TechnicianRecordOut:
    return TechnicianRecordOut.of(queries.technician_record(technician_id), weeks_of(technician_id, now=clock.now()))


@router.post("/people/absences", response=AbsenceOut, auth=Needs(Action.PLAN))
def note_absence(request: HttpRequest, body: AbsenceIn) -> AbsenceOut:
    """Note that somebody is away."""
    found = commands.note_absence(
        actor=actor_of(request), now=clock.now(), technician_id=body.technician_id, start=body.start, end=body.end,
        reason=body.reason,
    )  # fmt: skip
    return AbsenceOut.of(found)


@router.post("/technicians/{int:technician_id}/calendar", response=CalendarOut, auth=Needs(Action.PLAN))
def absences_from_calendar(
    request: HttpRequest,
    technician_id: Key,
    file: File[UploadedFile],
    kind: Form[AbsenceKind],
    sure: Form[bool] = False,
) -> dict[str, Any]:
    """Take the events of a calendar file as absences, or, unless one is sure, say what would come of each."""
    events = calendar_files.bring_in(
        actor=actor_of(request), now=clock.now(), technician_id=technician_id, content=file.read(), kind=kind, sure=sure
    )
    return {"sure": sure, "events": events}


@router.delete("/people/absences/{absence_id}", response={204: None}, auth=Needs(Action.PLAN))
def remove_absence(request: HttpRequest, absence_id: Key) -> Status[None]:
    """Somebody is there after all."""
    commands.remove_absence(actor=actor_of(request), now=clock.now(), absence_id=absence_id)
    return Status(204, None)


@router.get("/people/crews", response=list[CrewOut], auth=Needs(Action.SEE_BOARD))
def crews(request: HttpRequest) -> list[CrewOut]:
    """Standing crews, by name."""
    return [CrewOut.of(crew) for crew in queries.crews()]


@router.post("/people/crews", response=CrewOut, auth=Needs(Action.PLAN))
def make_crew(request: HttpRequest, body: CrewIn) -> CrewOut:
    """A new standing crew."""
    crew = commands.make_crew(actor=actor_of(request), now=clock.now(), name=body.name, members=body.members)
    return CrewOut.of(crew)


@router.put("/people/crews/{crew_id}", response=CrewOut, auth=Needs(Action.PLAN))
def change_crew(request: HttpRequest, crew_id: Key, body: CrewChangeIn) -> CrewOut:
    """Another name, or other members."""
    crew = commands.change_crew(
        actor=actor_of(request), now=clock.now(), crew_id=crew_id, version=body.version, name=body.name,
        members=body.members,
    )  # fmt: skip
    return CrewOut.of(crew)


@router.delete("/people/crews/{crew_id}", response={204: None}, auth=Needs(Action.PLAN))
def remove_crew(request: HttpRequest, crew_id: Key) -> Status[None]:
    """Dissolve a crew."""
    commands.remove_crew(actor=actor_of(request), now=clock.now(), crew_id=crew_id)
    return Status(204, None)
