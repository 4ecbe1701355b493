"""People from a file: who they are, what they can do, how they work."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from apps.company.models import Area, Depot
from apps.people import commands
from apps.people.inputs import TechnicianFields, TermsFields
from apps.people.models import Technician, Vehicle
from apps.people.queries import skill_keys
from apps.set_up.places import found_at, of_name, of_names
from apps.set_up.rows import Becomes, Hand, SetUpRow, each
from core.basics import Place


def write_people(hand: Hand, rows: Sequence[SetUpRow]) -> None:
    """By name: who is there already is changed; columns that are not in the file stay as they are."""
    writer = _Writer(hand)
    each(rows, writer.write)


@dataclass(frozen=True)
class _Writer:
    hand: Hand
    depots: dict[str, int] = field(default_factory=lambda: {row.name.casefold(): row.pk for row in Depot.objects.all()})
    areas: dict[str, int] = field(default_factory=lambda: {row.name.casefold(): row.pk for row in Area.objects.all()})
    skills: dict[str, str] = field(default_factory=skill_keys)
    vehicles: dict[str, str] = field(
        default_factory=lambda: {
            row.name.casefold(): row.code for row in Vehicle.objects.filter(merged_into="", retired=False)
        }
    )

    def write(self, row: SetUpRow) -> Becomes:
        found = Technician.objects.defer("portrait").filter(name__iexact=row.text("name")).first()
        kept = None if found is None else _fields_of(found)
        fields = self._fields(row, kept)
        if found is None:
            found = commands.add_technician(**self.hand.how, fields=fields)
            before = Becomes.NEW
        elif fields == kept:
            before = Becomes.SAME
        else:
            found = commands.change_technician(
                **self.hand.how, technician_id=found.pk, version=found.version, fields=fields
            )
            before = Becomes.CHANGE
        changed = self._employ(row, found) | self._set_terms(row, found)
        return Becomes.CHANGE if changed and before is Becomes.SAME else before

    def _fields(self, row: SetUpRow, kept: TechnicianFields | None) -> TechnicianFields:
        depot_id = of_name(self.depots, row.text("depot"), "depot")
        assert depot_id is not None  # the column is needed
        areas, skills = tuple(kept.area_ids) if kept else (), dict(kept.skills) if kept else {}
        if "areas" in row.cells:
            areas = tuple(sorted(of_names(self.areas, row.cells["areas"] or (), "area")))
        if "skills" in row.cells:
            given = row.cells["skills"] or {}
            skills = dict(zip(of_names(self.skills, tuple(given), "skill"), given.values(), strict=True))
        return TechnicianFields(
            name=kept.name if kept else row.text("name"), depot_id=depot_id,
            phone=row.text("phone", kept.phone if kept else ""), email=row.text("email", kept.email if kept else ""),
            area_ids=areas, skills=skills,
        )  # fmt: skip

    def _employ(self, row: SetUpRow, technician: Technician) -> bool:
        first = row.get("employed_from", technician.employed_from)
        last = row.get("employed_until", technician.employed_until)
        if (first, last) == (technician.employed_from, technician.employed_until):
            return False
        changed = commands.set_employment(
            **self.hand.how, technician_id=technician.pk, version=technician.version, first_day=first, last_day=last
        )
        technician.version = changed.version
        return True

    def _set_terms(self, row: SetUpRow, technician: Technician) -> bool:
        kept = _terms_of(technician)
        vehicle = kept.vehicle
        if "vehicle" in row.cells:
            vehicle = of_name(self.vehicles, row.text("vehicle"), "vehicle")
        address, home = _home(row, kept)
        terms = replace(
            kept, home_address=address, home=home, vehicle=vehicle,
            starts_at_home=bool(row.get("starts_at_home", kept.starts_at_home)),
            ends_at_home=bool(row.get("ends_at_home", kept.ends_at_home)),
            cost_per_hour=row.get("cost_per_hour", kept.cost_per_hour),
        )  # fmt: skip
        if terms == kept:
            return False
        commands.set_terms(**self.hand.how, technician_id=technician.pk, version=technician.version, fields=terms)
        return True


def _home(row: SetUpRow, kept: TermsFields) -> tuple[str, Place | None]:
    if "home" not in row.cells:
        return kept.home_address, kept.home
    address, lon, lat = row.text("home"), row.get("home_lon", None), row.get("home_lat", None)
    if not address:
        return "", None
    if lon is not None and lat is not None:
        return address, Place(lon, lat)
    return address, kept.home if kept.home and address == kept.home_address else found_at(address)


def _fields_of(row: Technician) -> TechnicianFields:
    return TechnicianFields(
        name=row.name, phone=row.phone, email=row.email, depot_id=row.depot_id,
        area_ids=tuple(sorted(row.areas.values_list("pk", flat=True))),
        skills=dict(row.skills.values_list("skill__code", "level")),
    )  # fmt: skip


def _terms_of(row: Technician) -> TermsFields:
    wishes = list(row.wishes.values_list("likes", "skill__code", "area_id"))
    home = Place(row.home_lon, row.home_lat) if row.home_lon is not None and row.home_lat is not None else None
    return TermsFields(
        home_address=row.home_address, home=home, starts_at_home=row.starts_at_home, ends_at_home=row.ends_at_home,
        vehicle=row.vehicle.code if row.vehicle else None, cost_per_hour=row.cost_per_hour,
        holiday_days=row.holiday_days, liked_skills=[code for likes, code, _area in wishes if likes and code],
        avoided_skills=[code for likes, code, _area in wishes if not likes and code],
        liked_areas=[area for likes, _code, area in wishes if likes and area],
        avoided_areas=[area for likes, _code, area in wishes if not likes and area],
    )  # fmt: skip
