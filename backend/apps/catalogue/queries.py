"""Reading the catalogue."""

from apps.catalogue.models import JobType
from foundation.errors import NotFound


def job_types() -> list[JobType]:
    return list(JobType.objects.order_by("priority", "name"))


def job_type(job_type_id: int) -> JobType:
    found = JobType.objects.filter(pk=job_type_id).first()
    if found is None:
        raise NotFound("There is no such job type.", code="no_job_type")
    return found
