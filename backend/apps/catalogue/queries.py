"""Reading the catalogue."""

from apps.catalogue.models import JobType, JobTypeEdition
from core.company import Settings, settings_from
from foundation import merging
from foundation.errors import NotFound


def job_types(*, retired: bool = False) -> list[JobType]:
    """Job types, the most urgent first; retired ones only where they are asked for."""
    rows = JobType.objects.filter(merged_into__isnull=True).order_by("priority", "name")
    return list(rows if retired else rows.filter(retired=False))


def job_types_by_name() -> dict[str, JobType]:
    """The job types that are offered, by code and name in small letters; names of those that were merged into one lead
    to it."""
    offered = job_types()
    found = {name.casefold(): job for job in offered for name in (job.code, job.name)}
    merged = JobType.objects.filter(merged_into__in=offered).select_related("merged_into")
    for gone in merged:
        for name in (gone.code, gone.name):
            if gone.merged_into is not None:
                found.setdefault(name.casefold(), gone.merged_into)
    return found


def codes() -> set[str]:
    """Of all job types, also of retired ones."""
    return set(JobType.objects.values_list("code", flat=True))


def job_type(job_type_id: int) -> JobType:
    found = JobType.objects.filter(pk=job_type_id).first()
    if found is None:
        raise NotFound("There is no such job type.", code="no_job_type")
    return found


def called(code: str) -> JobType | None:
    """The job type of that code that is still offered; of one that was merged, the one that is kept."""
    found = JobType.objects.select_related("merged_into").filter(code=code).first()
    kept = (found.merged_into or found) if found else None
    return kept if kept and not kept.retired else None


def uses(job_type_id: int) -> list[tuple[str, int]]:
    """Who has a job type, and how many; nothing of those of whom nobody has."""
    return merging.pointing(JobType, job_type(job_type_id).pk)


def editions(job_type_id: int) -> list[JobTypeEdition]:
    """Every edition of a job type, the newest first."""
    return list(JobTypeEdition.objects.filter(job_type_id=job_type_id).order_by("-number"))


def offer_settings(company: Settings, job: JobType | None) -> Settings:
    """The company's settings for offering a time, with those the job type has of its own."""
    if job is None or not job.offers:
        return company
    return settings_from({**{name: getattr(company, name) for name in company.__dataclass_fields__}, **job.offers})
