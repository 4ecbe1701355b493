"""Really at the same time: two hands on one visit, two visits on one technician's hour."""

import threading

import pytest
from django.db import connections

from apps.orders.models import Visit
from tests.apps.conftest import at


@pytest.fixture
def at_once():
    """Run several calls together, each in a thread and connection of its own; their answers."""

    def run(*calls):
        barrier = threading.Barrier(len(calls))
        answers = [None] * len(calls)

        def work(index, call):
            barrier.wait()
            try:
                answers[index] = call()
            finally:
                connections.close_all()

        threads = [threading.Thread(target=work, args=row) for row in enumerate(calls)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return answers

    return run


pytestmark = pytest.mark.django_db(transaction=True)


def placing(api, visit, technician, start):
    body = {"version": 1, "technician_id": technician.pk, "start": start}
    return lambda: api.post(f"/planning/visits/{visit.pk}/place", body)


def test_of_two_who_place_the_same_visit_one_wins_and_the_other_is_told(transactional_db, world, as_role, at_once):
    visit = world.visit()
    first, second = as_role("dispatcher"), as_role("other")
    answers = at_once(placing(first, visit, world.ines, at(11)), placing(second, visit, world.ivor, at(13)))
    assert sorted(answer.status_code for answer in answers) == [200, 409]
    loser = next(answer for answer in answers if answer.status_code == 409)
    assert "was faster" in loser.json()["title"]
    visit.refresh_from_db()
    assert visit.version == 2


def test_the_second_visit_on_the_same_hour_is_judged_with_the_first(transactional_db, world, as_role, at_once):
    one, two = world.visit(), world.visit()
    first, second = as_role("dispatcher"), as_role("other")
    answers = at_once(placing(first, one, world.ines, at(11)), placing(second, two, world.ines, at(11)))
    assert sorted(answer.status_code for answer in answers) == [200, 422]
    refused = next(answer for answer in answers if answer.status_code == 422).json()
    assert refused["code"] == "reason_needed"
    assert any("verlaps" in reason for reason in refused["reasons"])


def test_a_request_is_ordered_once_however_fast_two_people_are(transactional_db, world, as_role, at_once):
    intake = as_role("intake")
    body = {"site_id": world.site.pk, "what_is_wrong": "Scrapes"}
    request = intake.post("/intake/requests", body).json()
    order = {"request_id": request["id"], "version": 1}
    answers = at_once(
        lambda: intake.post("/orders", order),
        lambda: as_role_again(as_role).post("/orders", order),
    )
    assert sorted(answer.status_code for answer in answers) == [201, 409]
    assert Visit.objects.count() == 1


def as_role_again(as_role):
    return as_role("dispatcher")
