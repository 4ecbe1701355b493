"""From an empty company to the first visit done on the phone: how many actions it takes, and how long by machine."""

from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import sync_playwright

from tests.bench.figures import Figures
from tests.journeys.conftest import CHROMIUM_FLAGS, started
from tests.journeys.test_from_nothing import MOST_ACTIONS, walk_in, walk_in_by_files

PEOPLE = 300


def first_day(figures: Figures) -> None:
    """A person needs about five seconds for each action, and to read what stands there."""
    with started("first_day", demo=False) as (world, said), sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM_FLAGS)
        actions, seconds = walk_in(browser, world, said)
        with TemporaryDirectory() as folder:
            by_files = walk_in_by_files(browser, world, said, PEOPLE, Path(folder))
        browser.close()
    figures.note("from an empty company to a visit done: actions", actions, wanted=f"< {MOST_ACTIONS}")
    figures.note("the same, done by a machine: seconds", seconds)
    figures.note(f"{PEOPLE} technicians by files: actions", by_files[0], wanted="< 30")
    figures.note(f"{PEOPLE} technicians by files: seconds", by_files[1])
