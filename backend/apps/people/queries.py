"""Reading people."""

from collections.abc import Collection, Iterable, Sequence
from typing import cast

from django.db.models import Count, Exists, F, OuterRef, Q

from apps.company.queries import settings, time_zone
from apps.people.models import (
    Account,
    Certificate,
    CertificateKind,
    Crew,
    Skill,
    Technician,
    TechnicianSkill,
    Vehicle,
    WeeklyShiftRow,
)
from core.calendars import local_day
from core.roles import Role
from foundation import clock
from foundation.actors import Actor
from foundation.errors import NotFound
from foundation.named import keys_by_name, names


def idle_minutes_of(account: Account | None) -> int:
    """After how many minutes without a sign of life somebody is signed out; 0: never. A technician's phone lies in a
    pocket."""
    return 0 if account is None or account.reach.technician is not None else settings().idle_minutes


def technician(technician_id: int) -> Technician:
    """One technician: name, contact, depot, vehicle."""
    found = Technician.objects.select_related("depot", "vehicle").defer("portrait").filter(pk=technician_id).first()
    if found is None:
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def skill_keys() -> dict[str, str]:
    """Key of each skill, by its name in small letters."""
    return keys_by_name(Skill)


def skill_names() -> dict[str, str]:
    """What each skill is called, by its key."""
    return names(Skill)


def certificate_names() -> dict[str, str]:
    """What each kind of certificate is called, by its key."""
    return names(CertificateKind)


def skill_holders() -> dict[str, int]:
    """How many technicians have each skill, by its key."""
    rows = TechnicianSkill.objects.values_list("skill__code").annotate(holders=Count("technician", distinct=True))
    return dict(rows)


def certificate_holders() -> dict[str, int]:
    """How many technicians hold each certificate and may use it today, by the key of its kind."""
    today = local_day(int(clock.now().timestamp()), time_zone())
    valid = Certificate.objects.filter(Q(valid_until__isnull=True) | Q(valid_until__gte=today))
    return dict(valid.values_list("kind__code").annotate(holders=Count("technician", distinct=True)))


def demo_accounts() -> list[Account]:
    """Those to offer on the sign-in page of a demo."""
    order = ["dispatcher", "technician", "intake", "manager", "reviewer", "administrator"]
    accounts = Account.objects.filter(is_active=True, role__in=order).select_related("technician").order_by("id")
    return sorted(accounts, key=lambda account: order.index(account.role))


def an_administrator() -> Actor:
    """The administrator on whose behalf the command line acts.

    Raises
    ------
    NotFound
    """
    found = Account.objects.filter(role=Role.ADMINISTRATOR, is_active=True).order_by("id").first()
    if found is None:
        raise NotFound("There is no administrator yet.", code="no_account")
    return cast(Actor, found)


def technicians_at(ids: Iterable[int]) -> dict[int, str]:
    """The depot of each of these technicians, by name."""
    return dict(Technician.objects.filter(pk__in=list(ids)).values_list("id", "depot__name"))


def names_of(ids: Sequence[int]) -> list[str]:
    """Names of these technicians, in this order; who is not there any more is left out."""
    found = dict(Technician.objects.filter(pk__in=ids).values_list("id", "name")) if ids else {}
    return [found[key] for key in ids if key in found]


def technicians_named(ids: Iterable[int]) -> dict[int, str]:
    """Names of these technicians.

    Raises
    ------
    NotFound
        When one of them is not there.
    """
    wanted = set(ids)
    found = dict(Technician.objects.filter(pk__in=wanted).values_list("id", "name"))
    if len(found) < len(wanted):
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def technicians() -> list[Technician]:
    """Everybody, by name; `has_hours`: whether they have a shift on some day from today on."""
    today = local_day(int(clock.now().timestamp()), time_zone())
    ahead = WeeklyShiftRow.objects.filter(Q(valid_until__isnull=True) | Q(valid_until__gt=today))
    rows = Technician.objects.select_related("depot").defer("portrait").order_by("name")
    return list(rows.annotate(has_hours=Exists(ahead.filter(technician_id=OuterRef("pk")))))


def technician_terms(technician_id: int) -> Technician:
    """One technician with the home, the vehicle and the wishes."""
    rows = Technician.objects.defer("portrait").select_related("vehicle").prefetch_related("wishes__skill")
    found = rows.filter(pk=technician_id).first()
    if found is None:
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def depot_uses(depot_id: int) -> list[tuple[str, int]]:
    """Who is at a depot, and how many; nothing of those of whom nobody is."""
    counted = (
        ("technicians", Technician.objects.filter(depot_id=depot_id).count()),
        ("vehicles", Vehicle.objects.filter(depot_id=depot_id, merged_into="").count()),
    )
    return [(what, count) for what, count in counted if count]


def vehicle(code: str) -> Vehicle:
    """One vehicle with its drivers."""
    found = Vehicle.objects.prefetch_related("drivers").filter(code=code, merged_into="").first()
    if found is None:
        raise NotFound("There is no such vehicle.", code="no_vehicle")
    return found


def technicians_with_skills() -> list[Technician]:
    """Everybody by name, with their skills."""
    return list(Technician.objects.defer("portrait").prefetch_related("skills__skill").order_by("name"))


def technician_record(technician_id: int) -> Technician:
    """One technician with areas and skills."""
    rows = Technician.objects.defer("portrait").prefetch_related("areas", "skills__skill", "certificates__kind")
    found = rows.filter(pk=technician_id).first()
    if found is None:
        raise NotFound("There is no such technician.", code="no_technician")
    return found


def crews() -> list[Crew]:
    """Standing crews by name, with their members."""
    return list(Crew.objects.order_by("name").prefetch_related("places__technician"))


def certificates(technician_ids: Collection[int]) -> dict[int, list[Certificate]]:
    """By technician; what runs out first comes first, what never does comes last."""
    found: dict[int, list[Certificate]] = {}
    rows = Certificate.objects.select_related("kind").filter(technician_id__in=technician_ids)
    for row in rows.order_by(F("valid_until").asc(nulls_last=True), "kind__name"):
        found.setdefault(row.technician_id, []).append(row)
    return found
