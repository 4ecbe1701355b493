"""Who of the people holds skills, certificates and vehicles."""

from django.db.models import Max

from apps.people.models import Certificate, CertificateKind, Skill, Technician, TechnicianSkill, TechnicianWish, Vehicle
from foundation.named import Use


def _count_skill(code: str) -> int:
    return TechnicianSkill.objects.filter(skill__code=code).count()


def _replace_skill(old: str, new: str) -> None:
    """Whoever has both keeps the higher level."""
    both = TechnicianSkill.objects.filter(skill__code__in=(old, new))
    levels = dict(both.values_list("technician_id").annotate(level=Max("level")))
    kept = Skill.objects.get(code=new)
    both.delete()
    TechnicianSkill.objects.bulk_create(
        TechnicianSkill(technician_id=who, skill=kept, level=level) for who, level in sorted(levels.items())
    )


def _count_certificate(code: str) -> int:
    return Certificate.objects.filter(kind__code=code).values("technician").distinct().count()


def _replace_certificate(old: str, new: str) -> None:
    Certificate.objects.filter(kind__code=old).update(kind=CertificateKind.objects.get(code=new))


def _count_wishes(code: str) -> int:
    return TechnicianWish.objects.filter(skill__code=code).count()


def _replace_wishes(old: str, new: str) -> None:
    """What somebody says of the one that is kept stands."""
    kept = Skill.objects.get(code=new)
    said = TechnicianWish.objects.filter(skill=kept).values("technician_id")
    TechnicianWish.objects.filter(skill__code=old, technician_id__in=said).delete()
    TechnicianWish.objects.filter(skill__code=old).update(skill=kept)


def _count_drivers(code: str) -> int:
    return Technician.objects.filter(vehicle__code=code).count()


def _replace_vehicle(old: str, new: str) -> None:
    Technician.objects.filter(vehicle__code=old).update(vehicle=Vehicle.objects.get(code=new))


OF_VEHICLES = Use("drivers", _count_drivers, _replace_vehicle)
OF_WISHES = Use("wishes of technicians", _count_wishes, _replace_wishes)
OF_SKILLS = Use("technicians", _count_skill, _replace_skill)
OF_CERTIFICATES = Use("technicians", _count_certificate, _replace_certificate)
