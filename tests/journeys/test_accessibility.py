"""Nothing serious stands in the way of a screen reader or weak eyes on any main view, light or dark."""

import re
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page

from tests.journeys.board import open_tomorrow
from tests.journeys.conftest import (
    ADMINISTRATOR,
    DESK,
    DISPATCHER,
    INTAKE,
    PHONE,
    TECHNICIAN,
    RunningWorld,
    settled,
    sign_in_as,
)

Look = Callable[..., Page]

AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture
def look(browser: Browser, running: RunningWorld) -> Iterator[Look]:
    """Open a page as somebody, once it shows what it has."""
    contexts = []

    def open_page(who: str | None, path: str, *, phone: bool = False) -> Page:
        # The checker is put into the page as a script of its own, which the page's policy would refuse.
        context = browser.new_context(
            base_url=running.url,
            viewport=PHONE if phone else DESK,
            bypass_csp=True,
            reduced_motion="reduce",
            service_workers="block",
        )
        contexts.append(context)
        page = sign_in_as(context, running, who) if who else context.new_page()
        page.goto(path)
        page.locator("h1, h2, main button").first.wait_for()
        if who:
            settled(page)
        return page

    yield open_page
    for context in contexts:
        context.close()


def complaints(page: Page) -> list[str]:
    """In both themes: the page is the same, its colours are not."""
    if not page.evaluate("'axe' in window"):
        page.add_script_tag(content=AXE.read_text())
    return [f"{theme}: {row}" for theme in ("light", "dark") for row in _complaints_in(page, theme)]


def _complaints_in(page: Page, theme: str) -> list[str]:
    page.evaluate("theme => { document.documentElement.dataset.theme = theme }", theme)
    found = page.evaluate("axe.run({ resultTypes: ['violations'] })")
    assert len(found["passes"]) > 8, "the checker saw a page without content"
    return [
        f"{row['id']}: {node['target']} {node['failureSummary']}"
        for row in found["violations"]
        if row["impact"] in ("serious", "critical")
        for node in row["nodes"][:3]
    ]


@pytest.mark.parametrize(
    ("who", "path", "phone"),
    [
        (None, "/", False),
        (DISPATCHER, "/board", False),
        (DISPATCHER, "/board?visit=120", False),
        (DISPATCHER, "/board?run=0", False),
        (DISPATCHER, "/board?span=7&group=depot&hue=area", False),
        (DISPATCHER, "/board?view=both&visit=120", False),
        (DISPATCHER, "/board?group=crew&person=1&span=3", False),
        (DISPATCHER, "/board?view=list", False),
        (DISPATCHER, "/board?view=month", False),
        (DISPATCHER, "/playbooks", False),
        (DISPATCHER, "/outbox", False),
        (DISPATCHER, "/open-work", False),
        (INTAKE, "/intake", False),
        (INTAKE, "/intake?request=1", False),
        (DISPATCHER, "/requests", False),
        (DISPATCHER, "/quotes", False),
        (DISPATCHER, "/quotes/1", False),
        (DISPATCHER, "/orders", False),
        (DISPATCHER, "/orders/1", False),
        (DISPATCHER, "/customers", False),
        (DISPATCHER, "/customers/1", False),
        (DISPATCHER, "/customers/files", False),
        (DISPATCHER, "/capacity", False),
        (ADMINISTRATOR, "/set-up/settings", False),
        (ADMINISTRATOR, "/set-up/job-types", False),
        (ADMINISTRATOR, "/set-up/fields", False),
        (ADMINISTRATOR, "/set-up/holidays", False),
        (None, "/ask", True),
        (TECHNICIAN, "/field", True),
        (TECHNICIAN, "/field/this-phone", True),
        (TECHNICIAN, "/field/log", True),
    ],
)
def test_a_main_view_has_no_serious_barrier(look, who, path, phone):
    assert complaints(look(who, path, phone=phone)) == []


KINDS = ("know", "form", "tasks", "photos", "parts", "time", "charges", "notes", "acceptance")


def test_a_visit_on_the_phone_has_no_serious_barrier(look):
    page = look(TECHNICIAN, "/field", phone=True)
    link = page.locator("ol a", has_text=re.compile("upkeep")).first.get_attribute("href")
    for path in (link, *(f"{link}/work/{kind}" for kind in KINDS)):
        page.goto(path)
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_timeout(500)
        assert complaints(page) == [], path


def test_what_opens_over_the_board_has_no_serious_barrier(look):
    page = look(DISPATCHER, "/board")
    open_tomorrow(page)
    # Another journey may have sent what stands on one day; a week has something left.
    page.get_by_label("Days shown").select_option("7")
    page.get_by_role("button", name=re.compile(r"^Send \d")).click()
    page.get_by_role("list", name="Messages").get_by_role("listitem").first.wait_for()
    assert complaints(page) == []
    page.keyboard.press("Escape")
    page.get_by_label("Days shown").select_option("1")
    page.get_by_role("button", name="The whole day").click()
    page.get_by_role("menuitem", name="Crews").click()
    page.get_by_role("list", name="Standing crews").wait_for()
    assert complaints(page) == []
