"""What a browser does with a large board: first paint, long tasks, frames, latency. In headless Chromium."""

import statistics
import time
from datetime import date, timedelta

from playwright.sync_api import Page, sync_playwright

from demo.accounts import PASSWORD, SIGN_INS
from tests.bench.figures import Figures
from tests.bench.http import FAR_AHEAD, running

DESK = {"width": 1280, "height": 800}
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"]
SETTLES = 1500
# Tells of every task of 50 ms and more, and of every frame, from when it is asked to.
WATCH = """() => {
  window.__tasks = []; window.__frames = []; window.__watching = true;
  window.__observer = new PerformanceObserver((list) =>
    list.getEntries().forEach((entry) => window.__tasks.push(entry.duration)));
  window.__observer.observe({ entryTypes: ['longtask'] });
  let last = performance.now();
  const frame = (now) => { window.__frames.push(now - last); last = now;
    if (window.__watching) requestAnimationFrame(frame); };
  requestAnimationFrame(frame);
}"""
STOP = "() => { window.__watching = false; window.__observer.disconnect(); return [window.__tasks, window.__frames]; }"


def browser(figures: Figures) -> None:
    """200 lanes x a week x 8,400 visits, 5,000 waiting."""
    with running(days=7, waiting=5000) as server, sync_playwright() as play:
        chromium = play.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        page = chromium.new_page(viewport=DESK)
        page.goto(server.url)
        page.get_by_label("E-mail").fill(SIGN_INS[0].email)
        page.get_by_label("Password").fill(PASSWORD)
        page.keyboard.press("Enter")
        page.locator("[data-lane]").first.wait_for()
        day = (date.fromisoformat(server.get("/planning/board")["day"]) + timedelta(days=FAR_AHEAD)).isoformat()
        address = f"{server.url}/board?day={day}&span=7&group=depot"
        _paint(figures, page, address)
        _watched(figures, "scrolling up and down", page, lambda: _scroll(page, 0, 900))
        page.goto(f"{address}&column=60")
        page.locator("[data-lane] button[data-visit]").first.wait_for()
        page.wait_for_timeout(4000)
        _watched(figures, "scrolling sideways, an hour a column", page, lambda: _scroll(page, 700, 0))
        _watched(figures, "scrolling the backlog of 5,000", page, lambda: _scroll(page, 0, 1500, x=1150))
        _drag(figures, page)
        chromium.close()


def _paint(figures: Figures, page: Page, address: str) -> None:
    def load() -> float:
        page.goto("about:blank")
        began = time.perf_counter()
        page.goto(address, wait_until="commit")
        page.locator("[data-lane] button[data-visit]").first.wait_for()
        return 1000 * (time.perf_counter() - began)

    figures.take("board of a week, 200 lanes: first visits painted", lambda: None, repeat=5, own=load,
                 wanted="< 1,500 ms")  # fmt: skip
    page.wait_for_timeout(6000)


def _watched(figures: Figures, what: str, page: Page, act) -> None:
    page.evaluate(WATCH)
    act()
    tasks, frames = page.evaluate(STOP)
    frames = frames[2:]
    worst, slow = max(tasks, default=0.0), sum(1 for frame in frames if frame > 50)
    figures.take(f"{what}: longest task ({len(tasks)} of 50 ms and more)", lambda: None, repeat=1, warm=0,
                 own=lambda: worst, wanted="none")  # fmt: skip
    median = statistics.median(frames) if frames else 0.0
    figures.take(f"{what}: median frame ({slow} of {len(frames)} slower than 50 ms)", lambda: None, repeat=1, warm=0,
                 own=lambda: median)  # fmt: skip


def _scroll(page: Page, right: int, down: int, *, x: int = 600) -> None:
    page.mouse.move(x, 450)
    for direction in (1, -1):
        for _ in range(12):
            page.mouse.wheel(right * direction, down * direction)
            page.wait_for_timeout(60)
    page.wait_for_timeout(SETTLES)  # what was put off while things moved counts too


def _drag(figures: Figures, page: Page) -> None:
    station = page.locator("[data-lane] button[data-visit]").nth(3)
    box = station.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 4, box["y"] + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 30, box["y"] + 30)

    def move() -> None:
        for step in range(60):
            page.mouse.move(250 + 10 * step % 600, 200 + 7 * step % 500)
            page.wait_for_timeout(16)

    _watched(figures, "dragging a visit over the board", page, move)
    turn = iter(range(100))

    def ask() -> float:
        step = next(turn)
        began = time.perf_counter()
        with page.expect_response(lambda answer: answer.url.endswith("/planning/judge")):
            page.mouse.move(300 + 13 * step, 300 + 48 * (step % 3))
        return 1000 * (time.perf_counter() - began)

    figures.take("dragging: from the pointer's rest to the words", lambda: None, repeat=15, warm=2, own=ask,
                 wanted="< 100 ms")  # fmt: skip
    page.keyboard.press("Escape")
    page.mouse.up()
