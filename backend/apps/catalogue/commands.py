"""Changing the catalogue."""

from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import asdict
from datetime import datetime
from typing import Any

from django.db import transaction

from apps.catalogue.inputs import JobTypeFields
from apps.catalogue.models import JobType, JobTypeEdition
from apps.people.models import CertificateKind, Skill
from apps.people.queries import certificate_names, skill_names
from apps.pricing.documents import Buyer, filled
from apps.pricing.queries import today
from apps.stock.queries import check_parts
from core.company import Settings
from core.forms import questions_from, stored
from core.orders.sequences import parts_from
from core.reports import DEFAULT, steps_from
from core.roles import Action
from core.trades import StarterJob, starter_jobs
from foundation import audit, live, merging
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected
from foundation.named import called

# Settings for offering a time that a job type may have of its own.
OWN_OFFERS = (
    "offers_on", "offers_least", "near_metres", "weight_near", "weight_driving", "weight_soon", "weight_rare",
    "weight_load",
)  # fmt: skip


@transaction.atomic
def add_job_type(*, actor: Actor, now: datetime, code: str, fields: JobTypeFields) -> JobType:
    """A new job type."""
    require(actor, Action.CHANGE_SETTINGS)
    code = code.strip()
    if not code:
        raise Rejected("A job type needs a short code.", field="code")
    if JobType.objects.filter(code__iexact=code).exists():
        raise Rejected(f"There is a job type with the code {code} already.", field="code")
    return _write(actor, now, JobType(code=code, version=0), fields, "made the job type")


@transaction.atomic
def take_starter_jobs(*, actor: Actor, now: datetime, codes: Sequence[str]) -> list[JobType]:
    """Make job types of the starter sets, with the skills and certificates they ask for; those made.

    A job type whose code is there already stays as it is.

    Raises
    ------
    Rejected
        For a code that no starter job has.
    """
    require(actor, Action.CHANGE_SETTINGS)
    jobs = starter_jobs()
    if unknown := [code for code in codes if code not in jobs]:
        raise Rejected(f"There is no starter job type “{unknown[0]}”.", field="codes")
    there = set(JobType.objects.filter(code__in=codes).values_list("code", flat=True))
    wanted = [jobs[code] for code in dict.fromkeys(codes) if code not in there]
    return [add_job_type(actor=actor, now=now, code=job.code, fields=_starting(actor, now, job)) for job in wanted]


def _starting(actor: Actor, now: datetime, job: StarterJob) -> JobTypeFields:
    return JobTypeFields(
        name=job.name, duration_seconds=60 * job.minutes, priority=job.priority, crew=job.crew, tasks=job.tasks,
        needs={_key_of(actor, now, Skill, name): level for name, level in job.needs.items()},
        certificates=[_key_of(actor, now, CertificateKind, name) for name in job.certificates],
        respond_minutes=job.respond_minutes,
        resolve_minutes=None if job.resolve_days is None else 1440 * job.resolve_days,
    )  # fmt: skip


def _key_of(actor: Actor, now: datetime, model: type[Skill] | type[CertificateKind], name: str) -> str:
    row, made = called(model, name)
    if made:
        kind = str(model._meta.verbose_name)
        audit.record(
            actor=actor, now=now, action="make", entity=kind, entity_id=row.pk, version=row.version,
            sentence=f"made the {kind} {row.name}",
        )  # fmt: skip
        live.announce("names")
    return row.code


@transaction.atomic
def change_job_type(*, actor: Actor, now: datetime, job_type_id: int, version: int, fields: JobTypeFields) -> JobType:
    """Change a job type from now on: orders that exist keep the edition they were made with.

    Raises
    ------
    Conflict
        When it was changed since it was seen.
    """
    require(actor, Action.CHANGE_SETTINGS)
    job = JobType.objects.select_for_update().filter(pk=job_type_id).first()
    if job is None:
        raise NotFound("There is no such job type.", code="no_job_type")
    if job.version != version:
        raise Conflict(f"{job.name} was changed meanwhile. Look at it again.", current_version=job.version)
    return _write(actor, now, job, fields, "changed the job type")


@transaction.atomic
def merge_job_type(*, actor: Actor, now: datetime, job_type_id: int, version: int, into: int) -> JobType:
    """Make two job types one: requests and orders of the first are of the second from now on. Orders keep the edition
    they were made with. Answers the one that is kept.

    Raises
    ------
    Conflict
        When the first was changed since it was seen.
    NotFound, Rejected
        When there is no such other one, it is the same, or it is retired.
    """
    require(actor, Action.CHANGE_SETTINGS)
    if job_type_id == into:
        raise Rejected("That is the same one: choose another to merge it into.", field="into")
    # Locked in the order of their keys, so that two opposed merges wait for each other instead of for ever.
    both = JobType.objects.select_for_update().filter(pk__in=(job_type_id, into), merged_into=None).order_by("pk")
    rows = {row.pk: row for row in both}
    gone, kept = rows.get(job_type_id), rows.get(into)
    if gone is None or kept is None:
        raise NotFound("There is no such job type (any more).", code="no_job_type")
    if gone.version != version:
        raise Conflict(f"{gone.name} was changed meanwhile. Look at it again.", current_version=gone.version)
    if kept.retired:
        raise Rejected(f"{kept.name} is retired: offer it again first.", field="into")
    moved = merging.pointing(JobType, gone.pk)
    merging.move(JobType, from_id=gone.pk, to_id=kept.pk)
    JobType.objects.filter(merged_into=gone).update(merged_into=kept)
    gone.merged_into, gone.retired, gone.version = kept, True, gone.version + 1
    gone.save(update_fields=["merged_into", "retired", "version"])
    who = ", ".join(f"{count} {what}" for what, count in moved) or "nobody had it"
    audit.record(
        actor=actor, now=now, action="merge", entity="job type", entity_id=kept.pk, version=kept.version,
        sentence=f"merged the job type {gone.name} into {kept.name} ({who})",
    )  # fmt: skip
    live.announce("catalogue", ids=[gone.pk, kept.pk])
    return kept


def _write(actor: Actor, now: datetime, job: JobType, fields: JobTypeFields, sentence: str) -> JobType:
    for name, value in _checked(fields).items():
        setattr(job, name, value)
    job.version += 1
    job.save()
    edition(job, now=now, by=actor.name)
    audit.record(
        actor=actor, now=now, action="job type", entity="job type", entity_id=job.pk, version=job.version,
        sentence=f"{sentence} {job.name}",
    )  # fmt: skip
    live.announce("catalogue", ids=[job.pk])
    return job


def edition(job: JobType, *, now: datetime, by: str) -> JobTypeEdition:
    """The job type as it is now, kept for the orders made with it; made at the first need."""
    found, _made = JobTypeEdition.objects.get_or_create(
        job_type=job, number=job.version, defaults={"content": content_of(job), "made_at": now, "made_by": by}
    )
    return found


def content_of(job: JobType) -> dict[str, Any]:
    names = JobTypeFields.__dataclass_fields__
    return {name: getattr(job, name) for name in names}


def _checked(fields: JobTypeFields) -> dict[str, Any]:
    values = asdict(fields)
    if not fields.name.strip():
        raise Rejected("A job type needs a name.", field="name")
    if not 1 <= fields.priority <= 5:
        raise Rejected("A priority is 1 (highest) to 5.", field="priority")
    if not 1 <= fields.crew <= 8:
        raise Rejected("A crew has 1 to 8 members.", field="crew")
    further = [visit.get("needs") or {} for visit in fields.visits]
    _check_known("skill", {skill for needs in (fields.needs, *further) for skill in needs}, skill_names(), "needs")
    _check_known("certificate", fields.certificates, certificate_names(), "certificates")
    check_parts(fields.parts, field="parts")
    for name in ("questions", "fields"):
        try:
            values[name] = stored(questions_from(values[name]))
        except (ValueError, TypeError) as error:
            raise Rejected(f"{_sentence(error)}.", field=name) from error
    try:
        parts_from(fields.visits)
    except (ValueError, TypeError) as error:
        raise Rejected(f"{_sentence(error)}.", field="visits") from error
    values["steps"] = _own_steps(fields.steps)
    values["tasks"] = [task.strip() for task in fields.tasks if task.strip()]
    values["lines"] = filled(fields.lines, Buyer(day=today()))
    values["terms"] = fields.terms.strip()
    values["visits"] = [dict(visit) for visit in fields.visits]
    values["certificates"] = list(dict.fromkeys(fields.certificates))
    values["name"] = fields.name.strip()
    values["offers"] = _own_offers(fields.offers)
    return values


def _check_known(kind: str, wanted: Iterable[str], known: Container[str], field: str) -> None:
    unknown = sorted(code for code in set(wanted) if code not in known)
    if unknown:
        raise Rejected(f"Unknown {kind}: {', '.join(unknown)}.", field=field)


def _own_steps(rows: Sequence[Mapping[str, Any]]) -> list[dict[str, Any]]:
    """Steps as they are kept; the usual ones are not: they may change."""
    try:
        steps = steps_from(rows)
    except ValueError as error:
        raise Rejected(f"{_sentence(error)}.", field="steps") from error
    return [] if steps == DEFAULT else [{"kind": step.kind, "must": step.must} for step in steps]


def _own_offers(offers: Mapping[str, Any]) -> dict[str, Any]:
    own = {name: value for name, value in offers.items() if name in OWN_OFFERS and value is not None}
    try:
        Settings(**own)
    except (ValueError, TypeError) as error:
        raise Rejected(f"{_sentence(error)}.", field="offers") from error
    return own


def _sentence(error: Exception) -> str:
    text = str(error)
    return text[:1].upper() + text[1:]
