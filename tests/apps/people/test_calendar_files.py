"""Absences from a calendar file: what is previewed is what is noted."""

from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from apps.people.models import Absence
from foundation.moments import to_datetime
from tests.apps.conftest import MONDAY, at

THURSDAY, SATURDAY = MONDAY + timedelta(days=3), MONDAY + timedelta(days=5)
EVENTS = """BEGIN:VEVENT
UID:1
SUMMARY:Skiing
DTSTART;VALUE=DATE:20261126
DTEND;VALUE=DATE:20261128
END:VEVENT
BEGIN:VEVENT
UID:2
SUMMARY:Dentist
DTSTART:20261124T100000
DURATION:PT2H
END:VEVENT
BEGIN:VEVENT
UID:3
SUMMARY:Course
DTSTART:20261125T090000Z
DTEND:20261125T110000Z
END:VEVENT
BEGIN:VEVENT
UID:4
SUMMARY:Every Friday
DTSTART:20261127T150000
RRULE:FREQ=WEEKLY
END:VEVENT
BEGIN:VEVENT
UID:5
SUMMARY:Skiing again
DTSTART;VALUE=DATE:20261127
END:VEVENT
"""


def calendar(events=EVENTS):
    return (
        f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\n{events.replace(chr(10), chr(13) + chr(10))}END:VCALENDAR\r\n"
    )


def bring(api, world, text, *, sure=False):
    file = SimpleUploadedFile("leave.ics", text.encode(), content_type="text/calendar")
    body = {"file": file, "kind": "holiday", "sure": "true" if sure else "false"}
    return api.client.post(f"/api/v1/technicians/{world.ines.pk}/calendar", body)


def test_events_are_previewed_and_then_noted_as_previewed(world, dispatcher):
    preview = bring(dispatcher, world, calendar()).json()
    assert not Absence.objects.exists()
    done = bring(dispatcher, world, calendar(), sure=True).json()
    assert done == preview | {"sure": True}
    problems = {row["words"]: row["problem"] for row in done["events"]}
    assert [words for words, problem in problems.items() if not problem] == ["Dentist", "Course", "Skiing"]
    assert problems["Every Friday"].startswith("It repeats")
    assert problems["Skiing again"] == "Ines Falk is noted as absent then already."
    spans = {row.reason: (row.start, row.end, row.kind) for row in Absence.objects.all()}
    tuesday = MONDAY + timedelta(days=1)
    assert spans == {
        "Skiing": (to_datetime(at(0, day=THURSDAY)), to_datetime(at(0, day=SATURDAY)), "holiday"),
        # Times without a zone are the company's; those of a zone are that moment (Azores: an hour behind).
        "Dentist": (to_datetime(at(10, day=tuesday)), to_datetime(at(12, day=tuesday)), "holiday"),
        "Course": (
            to_datetime(at(8, day=MONDAY + timedelta(days=2))), to_datetime(at(10, day=MONDAY + timedelta(days=2))),
            "holiday",
        ),
    }  # fmt: skip


def test_a_file_that_comes_twice_notes_nothing_twice(world, dispatcher):
    bring(dispatcher, world, calendar(), sure=True)
    again = bring(dispatcher, world, calendar(), sure=True).json()
    assert all(row["problem"] for row in again["events"])
    assert Absence.objects.count() == 3


@pytest.mark.parametrize("text", ["no calendar", "", calendar(""), "BEGIN:VCALENDAR\r\nEND:VEVENT\r\n"])
def test_what_is_no_calendar_says_so(world, dispatcher, text):
    answer = bring(dispatcher, world, text or " ")
    assert (answer.status_code, answer.json()["field"]) == (422, "file")


def test_only_who_plans_brings_absences_in(world, as_role):
    assert bring(as_role("intake"), world, calendar()).status_code == 403
