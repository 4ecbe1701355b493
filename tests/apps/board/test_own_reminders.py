"""What people are to think of: before somebody at a desk, or on a technician's line and in their calendar."""

from datetime import timedelta

import icalendar
from django.test import Client

from apps.people.models import Account
from tests.apps.board.test_absences_and_reminders import day_of
from tests.apps.conftest import MONDAY, at

DAY = 24 * 3600


def remind(api, moment, text="Thank them", **more):
    made = api.post("/office-reminders", {"at": moment, "text": text, **more})
    assert made.status_code == 201, made.json()
    return made.json()


def texts(api, **asked):
    return [row["text"] for row in api.get("/office-reminders", whose="everybody", **asked).json()]


def test_reminders_of_some_days_are_those_of_the_days_by_the_companys_clock(world, dispatcher):
    remind(dispatcher, at(0), "at midnight")
    remind(dispatcher, at(23, 59), "before midnight")
    remind(dispatcher, at(0) + DAY, "tomorrow")
    today, tomorrow = MONDAY.isoformat(), (MONDAY + timedelta(days=1)).isoformat()
    assert texts(dispatcher, first=today, last=today) == ["at midnight", "before midnight"]
    assert texts(dispatcher, first=tomorrow, last=tomorrow) == ["tomorrow"]
    assert len(texts(dispatcher)) == 3
    assert dispatcher.get("/office-reminders", last="9999-12-31").status_code == 422


def test_a_technicians_stands_on_the_line_and_in_the_calendar_until_it_is_done(world, dispatcher):
    account = Account.objects.get(technician=world.ines)
    assert account.pk in [row["id"] for row in dispatcher.get("/office-reminders/people").json()]
    order = world.visit().order
    made = remind(dispatcher, at(15), "Fetch the papers", account_id=account.pk, about="order", about_id=order.pk)
    [shown] = day_of(dispatcher, world.ines)["reminders"]
    assert (shown["text"], shown["at"]) == ("Fetch the papers", at(15))
    path = dispatcher.get(f"/technicians/{world.ines.pk}/calendar-link").json()["path"]

    def in_the_calendar():
        feed = icalendar.Calendar.from_ical(Client(HTTP_HOST="127.0.0.1").get(path).content)
        return [(str(event["SUMMARY"]), int(event.start.timestamp()), str(event["TRANSP"])) for event in feed.events]

    assert in_the_calendar() == [("⚑ Fetch the papers", at(15), "TRANSPARENT")]
    done = {"version": made["version"], "at": made["at"], "text": made["text"], "done": True}
    assert dispatcher.put(f"/office-reminders/{made['id']}", done).json()["done"]
    assert in_the_calendar() == []
