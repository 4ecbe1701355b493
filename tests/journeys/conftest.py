"""One running world for all journeys: its own database, ports and worker, with the demo's data."""

import os
import socket
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit, urlunsplit
from weakref import WeakKeyDictionary

import psycopg
import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Request, expect

from demo.accounts import PASSWORD
from ops import templates
from ops.processes import Processes, base_environment, manage
from ops.start import stand_in_directory

DISPATCHER, SECOND = "dora.quill@hallamreyne.example", "milo.tarn@hallamreyne.example"
INTAKE, TECHNICIAN = "ivo.brandt@hallamreyne.example", "ines.falk@hallamreyne.example"
ADMINISTRATOR = "ada.reyne@hallamreyne.example"
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
CHROMIUM_FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update",
    "--disable-sync", "--no-first-run", "--disable-quic",
]  # fmt: skip

# Journeys play on a day of their own: what they meet does not depend on when they are run.
DEMO_DAY = templates.DEMO_DAY

# Only reached when something never comes: machines that run the suite may be three times as slow as a desk.
expect.set_options(timeout=90_000)


@dataclass(frozen=True)
class RunningWorld:
    """Where it runs, and the environment its commands need."""

    url: str
    env: dict[str, str]


@pytest.fixture(scope="session")
def running() -> Iterator[RunningWorld]:
    with started("journeys", demo=True) as (world, _said):
        yield world


@contextmanager
def started(name: str, *, demo: bool) -> Iterator[tuple[RunningWorld, str]]:
    """A server of its own, with the demo or with an empty company; and what was said when that was made."""
    database = f"{name}_{os.environ.get('PYTEST_XDIST_WORKER', 'alone')}"
    parts = urlsplit(os.environ["DATABASE_URL"])
    server = urlunsplit(parts._replace(path="/postgres"))
    env = base_environment() | {"DATABASE_URL": urlunsplit(parts._replace(path=f"/{database}"))}
    own = Path(tempfile.mkdtemp(prefix=f"{name}-"))
    env |= {
        "RELAY_FILES": str(own / "files"), "RELAY_MAILBOX": str(own / "mailbox"),
        "RELAY_EMAIL_URL": f"filemail:///{own / 'letters'}",
    }  # fmt: skip
    said = _filled(env, server, database, own, demo=demo)
    if not demo:
        _morning_of_the_demo_s_day(env["DATABASE_URL"])
    port, planner_port = _free_port(), _free_port()
    env["RELAY_PLANNER_URL"] = f"http://127.0.0.1:{planner_port}"
    if demo:
        env |= stand_in_directory(port)
    processes = Processes(env, log_prefix=f"{name}-")
    try:
        processes.start_planner(planner_port)
        processes.start_worker()
        processes.start_web(port)
        processes.wait_healthy(port, seconds=120)
        processes.wait_planner(planner_port)
        yield RunningWorld(url=f"http://127.0.0.1:{port}", env=env), said
    finally:
        processes.stop()


def _filled(env: dict[str, str], server: str, database: str, own: Path, *, demo: bool) -> str:
    """The demo, or an empty company: copied from what the test command has made ready, else made here."""
    ready = os.environ.get("RELAY_TEMPLATES")
    if ready and demo:
        templates.copy_demo(server, database, said=ready, files=own)
        return ""
    templates.copy(server, database, of=templates.MIGRATED if ready else None)
    if not ready:
        manage(env, "prepare")
    return manage(env, "load_demo", "--on", DEMO_DAY) if demo else manage(env, "create_company")


def _morning_of_the_demo_s_day(database_url: str) -> None:
    """An empty company's first day is no night and no Sunday either, whenever the journeys are run."""
    morning = datetime.fromisoformat(f"{DEMO_DAY}T09:00:00+00:00")
    ahead = int((morning - datetime.now(UTC)).total_seconds())
    with psycopg.connect(database_url, autocommit=True) as connection:
        connection.execute("INSERT INTO foundation_clockshift (seconds) VALUES (%s)", [ahead])


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port: int = probe.getsockname()[1]
        return port


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {"executable_path": "/usr/bin/chromium", "args": CHROMIUM_FLAGS}


@pytest.fixture
def context_without_account(browser: Browser, running: RunningWorld) -> Iterator[Page]:
    """A page of somebody from outside."""
    context = browser.new_context(base_url=running.url, viewport=PHONE)
    yield context.new_page()
    context.close()


SignIn = Callable[..., Page]
# What a browser holds of a session, by who signed in: each person signs in once, and comes back like the next morning.
_sessions: dict[tuple[str, str], list[Any]] = {}


# What each page has asked for and has no answer to yet; the stream of changes is never answered.
_waiting: WeakKeyDictionary[Page, set[Request]] = WeakKeyDictionary()


def _watch(page: Page) -> None:
    waiting = _waiting[page] = set()
    page.on("request", lambda request: None if "/api/v1/live" in request.url else waiting.add(request))
    for event in ("requestfinished", "requestfailed"):
        page.on(event, lambda request: waiting.discard(request))


def settled(page: Page, *, seconds: int = 15) -> None:
    """Wait until a page has all its answers, and asks for nothing more because of them."""
    quiet = 0
    for _ in range(seconds * 20):
        page.wait_for_timeout(50)
        quiet = 0 if _waiting[page] else quiet + 1
        if quiet == 3:
            return
    assert not _waiting[page], [request.url for request in _waiting[page]]


def sign_in_as(context: BrowserContext, running: RunningWorld, email: str) -> Page:
    """A page of somebody who is signed in, where they work."""
    known = _sessions.get((running.url, email))
    if known:
        context.add_cookies(known)
    page = context.new_page()
    _watch(page)
    page.goto("/")
    # The front door leads on to where one works: what is clicked before would be left again.
    page.wait_for_url(lambda url: urlsplit(url).path not in ("", "/"))
    if urlsplit(page.url).path == "/sign-in":
        page.get_by_label("E-mail").fill(email)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.wait_for_url(lambda url: urlsplit(url).path not in ("", "/", "/sign-in"))
        _sessions[running.url, email] = context.cookies()
    return page


@pytest.fixture
def sign_in(browser: Browser, running: RunningWorld) -> Iterator[SignIn]:
    """Open the application as somebody, each in a browser context of their own."""
    contexts: list[BrowserContext] = []
    errors: list[str] = []

    def open_as(email: str, *, viewport: dict[str, int] | None = None, keeps_pages: bool = False) -> Page:
        """`keeps_pages`: as a phone does, for when there is no signal."""
        context = browser.new_context(
            base_url=running.url, viewport=viewport or DESK, color_scheme="light",
            service_workers="allow" if keeps_pages else "block",
        )  # fmt: skip
        contexts.append(context)
        context.on("weberror", lambda error: errors.append(str(error.error)))
        return sign_in_as(context, running, email)

    yield open_as
    for context in contexts:
        context.close()
    assert errors == []
