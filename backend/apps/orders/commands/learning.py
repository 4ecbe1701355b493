"""Learning from finished visits how long work takes."""

from datetime import datetime, timedelta

from django.db import transaction

from apps.orders.models import LearnedLength, Visit
from core.learning import learn
from core.orders import VisitState

# What is older says little about how the work is done now.
WEEKS = 104


@transaction.atomic
def learn_lengths(*, now: datetime) -> int:
    """Learn every job type's length anew from the visits of two years; how many job types have one then.

    One after the other: two that learn at once wait for each other at the first row, and come to the same.
    """
    finished = Visit.objects.filter(
        state__in=[VisitState.DONE, VisitState.REVIEWED], arrived_at__isnull=False,
        finished_at__gte=now - timedelta(weeks=WEEKS), technician__isnull=False, order__job_type__isnull=False,
    )  # fmt: skip
    samples: dict[int, list[tuple[int, int]]] = {}
    columns = ("order__job_type_id", "technician_id", "arrived_at", "finished_at")
    for job_type_id, technician_id, arrived, finished_at in finished.values_list(*columns).iterator():
        seconds = int((finished_at - arrived).total_seconds())
        if seconds > 0 and technician_id is not None:
            samples.setdefault(job_type_id, []).append((technician_id, seconds))
    found = {key: learned for key, rows in sorted(samples.items()) if (learned := learn(rows)) is not None}
    LearnedLength.objects.bulk_create(
        (
            LearnedLength(
                job_type_id=key, mean=learned.mean, spread=learned.spread, count=learned.count,
                own={str(who): [pace.seconds, pace.count] for who, pace in learned.own.items()},
            )
            for key, learned in found.items()
        ),
        update_conflicts=True, unique_fields=["job_type"], update_fields=["mean", "spread", "count", "own"],
    )  # fmt: skip
    LearnedLength.objects.exclude(job_type_id__in=found).delete()
    return len(found)
