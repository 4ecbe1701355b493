"""Reading what lies on vans."""

from collections.abc import Collection, Iterable, Mapping

from apps.stock.models import Part, VanPart
from foundation.errors import Rejected
from foundation.named import names


def vans(technician_ids: Collection[int] | None = None) -> dict[int, dict[str, int]]:
    """What lies on the vans of technicians, or of everybody: quantity by key of the part. A van without rows is not
    counted, and not there."""
    rows = VanPart.objects.all()
    if technician_ids is not None:
        rows = rows.filter(technician_id__in=technician_ids)
    found: dict[int, dict[str, int]] = {}
    for technician_id, part, quantity in rows.values_list("technician_id", "part__code", "quantity"):
        found.setdefault(technician_id, {})[part] = quantity
    return found


def van(technician_id: int) -> list[VanPart]:
    """The rows of one van, by part."""
    return list(VanPart.objects.select_related("part").filter(technician_id=technician_id).order_by("part__name"))


def parts() -> list[Part]:
    """All there ever were, by name."""
    return list(Part.objects.order_by("name"))


def part_called(name: str) -> Part | None:
    """The part of that name in any spelling."""
    return Part.objects.filter(name__iexact=name).first()


def part_names() -> dict[str, str]:
    """What each part is called, by its key."""
    return names(Part)


def with_names(quantities: Mapping[str, int]) -> list[tuple[str, int]]:
    """Quantities by key as those of names, by name."""
    known = part_names() if quantities else {}
    return sorted((known.get(code, code), quantity) for code, quantity in quantities.items())


def check_parts(codes: Iterable[str], *, field: str) -> None:
    """Raises Rejected with the first that is not a part's key."""
    wanted = set(codes)
    known = set(Part.objects.filter(code__in=wanted).values_list("code", flat=True)) if wanted else wanted
    for code in sorted(wanted - known):
        raise Rejected(f"Unknown part: {code}.", field=field)
