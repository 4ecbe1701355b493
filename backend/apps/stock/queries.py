"""Reading what lies on vans."""

from collections.abc import Collection, Mapping

from apps.catalogue.models import JobType
from apps.stock.models import VanPart


def vans(technician_ids: Collection[int] | None = None) -> dict[int, dict[str, int]]:
    """What lies on the vans of technicians, or of everybody: quantity by part. A van nobody counts is not there."""
    rows = VanPart.objects.all()
    if technician_ids is not None:
        rows = rows.filter(technician_id__in=technician_ids)
    found: dict[int, dict[str, int]] = {}
    for technician_id, part, quantity in rows.values_list("technician_id", "part", "quantity"):
        found.setdefault(technician_id, {})[part] = quantity
    return found


def van(technician_id: int) -> list[VanPart]:
    """The rows of one van, by part."""
    return list(VanPart.objects.filter(technician_id=technician_id).order_by("part"))


def known_parts() -> list[str]:
    """Names of the parts that job types take or vans carry, each once, by name."""
    names: dict[str, str] = {}
    for parts in JobType.objects.filter(retired=False).order_by("id").values_list("parts", flat=True):
        names |= {name.casefold(): name for name in parts if name.casefold() not in names}
    for name in VanPart.objects.order_by("id").values_list("part", flat=True).distinct():
        names.setdefault(name.casefold(), name)
    return sorted(names.values())


def spelled(parts: Mapping[str, int]) -> dict[str, int]:
    """The same parts under the names they go by: "door roller" is a Door roller."""
    if not parts:
        return {}
    known = {name.casefold(): name for name in known_parts()}
    found: dict[str, int] = {}
    for name, quantity in parts.items():
        goes_by = known.get(name.strip().casefold(), name.strip())
        found[goes_by] = found.get(goes_by, 0) + quantity
    return found
