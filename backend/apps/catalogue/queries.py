"""Reading the catalogue."""

from apps.catalogue.models import JobType, JobTypeEdition
from core.company import Settings, settings_from
from foundation.errors import NotFound


def job_types(*, retired: bool = False) -> list[JobType]:
    """Job types, the most urgent first; retired ones only where they are asked for."""
    rows = JobType.objects.order_by("priority", "name")
    return list(rows if retired else rows.filter(retired=False))


def codes() -> set[str]:
    """Of all job types, also of retired ones."""
    return set(JobType.objects.values_list("code", flat=True))


def job_type(job_type_id: int) -> JobType:
    found = JobType.objects.filter(pk=job_type_id).first()
    if found is None:
        raise NotFound("There is no such job type.", code="no_job_type")
    return found


def editions(job_type_id: int) -> list[JobTypeEdition]:
    """Every edition of a job type, the newest first."""
    return list(JobTypeEdition.objects.filter(job_type_id=job_type_id).order_by("-number"))


def offer_settings(company: Settings, job: JobType | None) -> Settings:
    """The company's settings for offering a time, with those the job type has of its own."""
    if job is None or not job.offers:
        return company
    return settings_from({**{name: getattr(company, name) for name in company.__dataclass_fields__}, **job.offers})
