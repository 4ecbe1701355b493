"""What administrators do with archives: have one made, bring one in, take one away."""

from datetime import datetime, timedelta

from django.core.files import File
from django.db import transaction
from django.db.models import Q

from apps.set_up.archive.working import MAKE, TAKE, is_empty
from apps.set_up.models import Archive
from core.roles import Action
from foundation import audit, jobs, live, parts
from foundation.actors import Actor, require
from foundation.errors import Conflict, NotFound, Rejected

# Archives hold all there is of a company: they are thrown away when they have been taken.
KEPT_DAYS = 7
STUCK_SECONDS = 3600


@transaction.atomic
def ask_for_archive(*, actor: Actor, now: datetime) -> Archive:
    """Have everything put into one archive, in the background; one at a time."""
    require(actor, Action.MANAGE_ACCOUNTS)
    if Archive.objects.select_for_update().filter(way="out", state__in=("waiting", "running")).exists():
        raise Conflict("An archive is being made already.", code="being_made")
    archive = Archive.objects.create(way="out", asked_at=now, asked_by=actor.name, moved_at=now)
    audit.record(
        actor=actor, now=now, action="archive", entity="archive", entity_id=archive.pk,
        sentence="had everything put into an archive",
    )  # fmt: skip
    jobs.after_commit(MAKE, lock=f"{MAKE} {archive.pk}", archive_id=archive.pk)
    return archive


@transaction.atomic
def bring_archive(*, actor: Actor, now: datetime, key: str) -> Archive:
    """Fill this installation from an archive that was sent in parts, in the background. Everybody signs in anew, with
    the archive's accounts.

    Raises
    ------
    Rejected
        When somebody works here already.
    """
    require(actor, Action.MANAGE_ACCOUNTS)
    if not is_empty():
        raise Rejected(
            "This installation is not empty: it has technicians, customers or requests. An archive is brought into a "
            "new one.", field="file",
        )  # fmt: skip
    if Archive.objects.select_for_update().filter(way="in", state__in=("waiting", "running")).exists():
        raise Conflict("An archive is being brought in already.", code="being_brought")
    path = parts.whole(actor=actor, key=key)
    archive = Archive(way="in", asked_at=now, asked_by=actor.name, moved_at=now, size=path.stat().st_size)
    with path.open("rb") as file:
        archive.content.save("brought.zip", File(file), save=False)
    archive.save()
    transaction.on_commit(lambda: path.unlink(missing_ok=True))
    jobs.after_commit(TAKE, lock=f"{TAKE} {archive.pk}", archive_id=archive.pk)
    return archive


def archives() -> list[Archive]:
    """The last ones, newest first."""
    return list(Archive.objects.exclude(way="before").order_by("-pk")[:10])


def opened(archive_id: int) -> Archive:
    """One that can be taken away.

    Raises
    ------
    NotFound
    """
    found = Archive.objects.filter(pk=archive_id, way="out", state="done").first()
    if found is None or not found.content:
        raise NotFound("That archive is not here (any more). Have one made.", code="no_archive")
    return found


def sweep(*, now: datetime) -> int:
    """Take up what waits and whose job was lost; say of what was begun and never ended that it failed. How many."""
    late = Q(state="waiting", moved_at__lt=now - timedelta(seconds=120))
    lost = Q(state="running", moved_at__lt=now - timedelta(seconds=STUCK_SECONDS))
    for archive in Archive.objects.filter(late):
        task = TAKE if archive.way == "in" else MAKE
        jobs.after_commit(task, lock=f"{task} {archive.pk}", archive_id=archive.pk)
    failed = Archive.objects.filter(lost).update(state="failed", failure="It was begun and never ended. Try again.")
    if failed:
        live.announce("archive")
    return failed


def retire(*, now: datetime) -> int:
    """Throw away the contents of archives that were made or brought in days ago; how many."""
    old = Archive.objects.filter(asked_at__lt=now - timedelta(days=KEPT_DAYS)).exclude(way="before").exclude(content="")
    for archive in old:
        archive.content.delete(save=True)
    return len(old) + parts.clear()
