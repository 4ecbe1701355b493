"""A table that moves to another app keeps its rows."""

import pytest
from django.apps import apps
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.state import ProjectState

from apps.board.models import Reminder
from foundation.moving import CreateOrTakeOver
from tests.apps.conftest import at

pytestmark = pytest.mark.django_db


def operation(app: str, name: str) -> CreateOrTakeOver:
    migration = MigrationLoader(connection).get_migration(app, "0001_initial")
    return next(row for row in migration.operations if getattr(row, "name", "") == name)


def run(found: CreateOrTakeOver, app: str) -> None:
    now = ProjectState.from_apps(apps)
    # Indexes are renamed and constraints checked at once: the test's own transaction holds both.
    with connection.schema_editor(atomic=False) as editor:
        found.database_forwards(app, editor, now, now)


def test_what_was_in_the_table_before_is_in_the_one_it_became(world, dispatcher):
    body = {"technician_id": world.ines.pk, "at": at(11), "text": "Keys back"}
    assert dispatcher.post("/reminders", body).status_code == 200
    moved = operation("board", "Reminder")
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute(f"ALTER TABLE board_reminder RENAME TO {moved.taken_from}")
        for earlier, name in moved.earlier_indexes.items():
            cursor.execute(f'ALTER INDEX "{name}" RENAME TO "{earlier}"')
    run(moved, "board")
    assert list(Reminder.objects.values_list("text", flat=True)) == ["Keys back"]
    assert dispatcher.post("/reminders", body | {"text": "Once more"}).status_code == 200
    assert Reminder.objects.count() == 2


def test_without_an_earlier_table_it_is_made(world):
    with connection.cursor() as cursor:
        cursor.execute("DROP TABLE board_reminder")
    run(operation("board", "Reminder"), "board")
    assert Reminder.objects.count() == 0


def test_a_calendar_link_given_out_before_still_leads_to_the_calendar(world, dispatcher):
    path = dispatcher.get(f"/technicians/{world.ines.pk}/calendar-link").json()["path"]
    token = path.rsplit("/", 1)[1]
    answer = dispatcher.client.get(f"/api/planning/calendar/{token}", follow=True)
    assert (answer.status_code, answer["Content-Type"]) == (200, "text/calendar; charset=utf-8")
