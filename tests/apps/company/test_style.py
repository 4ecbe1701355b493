"""How days and times are said follows the company's settings, on screen and to customers."""

import pytest

from apps.company.queries import time_zone
from core.calendars import Style, use
from tests.apps.conftest import at


@pytest.fixture(autouse=True)
def _usual_again():
    yield
    use(Style())


def test_what_is_said_is_said_in_the_style_that_was_chosen(
    world, as_role, dispatcher, django_capture_on_commit_callbacks
):
    admin = as_role("administrator")
    version = admin.get("/company/settings").json()["version"]
    changes = {"clock": "2:05 pm", "date_order": "Mon Nov 23", "week_begins": "Sunday"}
    assert admin.post("/company/settings", {"version": version, "changes": changes}).status_code == 200
    time_zone()
    style = dispatcher.get("/company").json()["style"]
    assert style == {"twelve_hours": True, "month_first": True, "week_begins": "Sunday"}
    visit = world.visit()
    placed = {"version": 1, "technician_id": world.ines.pk, "start": at(13, 30)}
    assert dispatcher.post(f"/visits/{visit.pk}/place", placed).status_code == 200
    history = dispatcher.get(f"/visits/{visit.pk}").json()["history"]
    assert any("placed it to Ines Falk, 1:30 pm" in row["sentence"] for row in history)
    outside = {"visit_id": visit.pk, "technician_id": world.ines.pk, "start": at(6)}
    reasons = dispatcher.post("/scheduling/judge", outside).json()["reasons"]
    assert any("8:00 am" in row["sentence"] for row in reasons), reasons


def test_a_style_that_is_none_is_refused(as_role):
    admin = as_role("administrator")
    version = admin.get("/company/settings").json()["version"]
    answer = admin.post("/company/settings", {"version": version, "changes": {"clock": "sundial"}})
    assert (answer.status_code, answer.json()["field"]) == (422, "clock")
