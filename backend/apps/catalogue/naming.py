"""Which job types ask for a skill or a certificate. Their editions stay as they were written."""

from collections.abc import Callable
from typing import Any

from apps.catalogue.models import JobType
from foundation.named import Use


def _one_for_other(levels: dict[str, int], old: str, new: str) -> dict[str, int]:
    """Of two that become one the higher level is asked for."""
    if old not in levels:
        return levels
    kept = {key: level for key, level in levels.items() if key != old}
    return kept | {new: max(kept.get(new, 0), levels[old])}


def _holders(holds: Callable[[JobType, str], bool], code: str) -> list[JobType]:
    return [job for job in JobType.objects.order_by("id") if holds(job, code)]


def _keep(jobs: list[JobType], *fields: str) -> None:
    for job in jobs:
        job.version += 1
    JobType.objects.bulk_update(jobs, ["version", *fields])


def _asks_skill(job: JobType, code: str) -> bool:
    return code in job.needs or any(code in (visit.get("needs") or {}) for visit in job.visits)


def _replace_skill(old: str, new: str) -> None:
    jobs = _holders(_asks_skill, old)
    for job in jobs:
        job.needs = _one_for_other(job.needs, old, new)
        job.visits = [_visit_with(visit, old, new) for visit in job.visits]
    _keep(jobs, "needs", "visits")


def _visit_with(visit: dict[str, Any], old: str, new: str) -> dict[str, Any]:
    return visit | {"needs": _one_for_other(visit["needs"], old, new)} if visit.get("needs") else visit


def _asks_certificate(job: JobType, code: str) -> bool:
    return code in job.certificates


def _replace_certificate(old: str, new: str) -> None:
    jobs = _holders(_asks_certificate, old)
    for job in jobs:
        job.certificates = list(dict.fromkeys(new if code == old else code for code in job.certificates))
    _keep(jobs, "certificates")


SKILLS = Use("job types", lambda code: len(_holders(_asks_skill, code)), _replace_skill)
CERTIFICATES = Use("job types", lambda code: len(_holders(_asks_certificate, code)), _replace_certificate)
