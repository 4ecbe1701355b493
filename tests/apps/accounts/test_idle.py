"""Whoever has left the desk is signed out, where the company wants that."""

import time

import pytest

from apps.accounts import idle
from apps.company.models import Company


@pytest.fixture
def ten_minutes(world):
    Company.objects.update(settings={"idle_minutes": 10})


@pytest.fixture
def machine(monkeypatch):
    """The machine's clock, to be put forward."""
    began = time.time()
    moment = {"now": began}
    monkeypatch.setattr(idle.time, "time", lambda: moment["now"])

    def wait(minutes):
        moment["now"] += 60 * minutes

    return wait


def who(api):
    account = api.get("/session").json()["account"]
    return account and account["name"]


def test_who_touches_nothing_is_signed_out_and_who_does_is_not(ten_minutes, machine, dispatcher):
    assert dispatcher.get("/session").json()["idle_minutes"] == 10
    for _ in range(5):
        machine(9)
        assert dispatcher.post("/session/here").status_code == 204
    # What the page fetches by itself is no sign of life.
    machine(6)
    assert dispatcher.get("/board").status_code == 200
    machine(6)
    assert dispatcher.get("/board").status_code == 401
    assert who(dispatcher) is None


def test_a_technician_s_phone_stays_signed_in(ten_minutes, machine, as_role):
    phone = as_role("technician")
    assert phone.get("/session").json()["idle_minutes"] == 0
    machine(600)
    assert phone.get("/field/day").status_code == 200


def test_without_a_wish_of_the_company_nobody_is_signed_out(world, machine, dispatcher):
    machine(60 * 12)
    assert who(dispatcher) == "The dispatcher"


def test_signed_in_before_the_company_wanted_it_one_has_the_whole_time(world, machine, dispatcher):
    who(dispatcher)
    machine(300)
    Company.objects.update(settings={"idle_minutes": 10})
    assert who(dispatcher) == "The dispatcher"
    machine(12)
    assert who(dispatcher) is None
