"""One world for all tests of the demo: making it takes longer than all they look at."""

from collections.abc import Iterator
from datetime import date
from typing import Any

import pytest
from django.db import transaction

from apps.appointments.planner import offers as planner_offers
from apps.company import queries as company_queries
from apps.scheduling.planner import world as planner_world
from demo.world.load import load
from foundation import clock

# The middle of a week.
WEDNESDAY = date(2026, 11, 25)


@pytest.hookimpl(tryfirst=True)
def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Whoever looks at the demo does so in one process: the world is made once."""
    for item in items:
        if "demo" in getattr(item, "fixturenames", ()):
            item.add_marker(pytest.mark.xdist_group("demo"))


@pytest.fixture(scope="package")
def made(django_db_setup: None, django_db_blocker: Any) -> Iterator[None]:
    """The demo as it is on a Wednesday. What a test does to it, or loads in its place, is undone after the test."""
    with django_db_blocker.unblock(), transaction.atomic():
        load(on=WEDNESDAY)
        yield
        transaction.set_rollback(True)


@pytest.fixture
def demo(made: None, db: None, monkeypatch: pytest.MonkeyPatch) -> None:
    """That world, and nothing that the process has kept of another one."""
    monkeypatch.setattr(clock, "_shift", None)
    monkeypatch.setattr(company_queries, "_zone", None)
    monkeypatch.setattr(planner_offers, "_world", None)
    planner_world._worlds.clear()
