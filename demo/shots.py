"""Pictures of the main views from the demo's data: `./relay shots`."""

import re
import sys
from collections.abc import Callable

from playwright.sync_api import Browser, Page, sync_playwright

from demo.accounts import PASSWORD

DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update",
         "--disable-sync", "--no-first-run", "--disable-quic"]  # fmt: skip


class Camera:
    """Opens pages as somebody of the demo."""

    def __init__(self, browser: Browser, url: str) -> None:
        self.browser = browser
        self.url = url

    def page(self, who: str | None = None, *, phone: bool = False) -> Page:
        context = self.browser.new_context(
            base_url=self.url,
            viewport=PHONE if phone else DESK,  # type: ignore[arg-type]
            color_scheme="light",
            locale="en-GB",
        )
        page = context.new_page()
        page.goto("/")
        if who:
            page.get_by_label("E-mail").fill(f"{who}@hallamreyne.example")
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
            page.wait_for_url(lambda url: "sign-in" not in url)
        page.wait_for_load_state("networkidle") if not who else page.wait_for_timeout(1200)
        return page


def board(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.locator("[data-lane] button[data-visit]").first.wait_for()
    page.wait_for_timeout(800)
    return page


def tomorrow(page: Page) -> None:
    """On to the next working day."""
    for _ in range(3):
        page.get_by_role("button", name="Day after").click()
        if not page.locator("h1").inner_text().startswith(("Sat", "Sun")):
            return


def board_drag(camera: Camera) -> Page:
    page = board(camera)
    row = page.locator("[data-backlog] button[data-visit]").nth(1).bounding_box()
    lane = page.locator("[data-lane]").nth(5).bounding_box()
    assert row is not None
    assert lane is not None
    page.mouse.move(row["x"] + 30, row["y"] + 20)
    page.mouse.down()
    page.mouse.move(lane["x"] + 500, lane["y"] + 20, steps=10)
    page.get_by_test_id("verdict").locator("li").first.wait_for()
    page.wait_for_timeout(400)
    return page


def details(camera: Camera) -> Page:
    page = board(camera)
    page.locator("[data-lane] button[data-visit][aria-label*='accepted']").first.click()
    page.get_by_test_id("details").locator("form").first.wait_for()
    page.wait_for_timeout(500)
    page.get_by_test_id("openings").get_by_role("listitem").first.wait_for()
    return page


def proposal(camera: Camera) -> Page:
    page = board(camera)
    tomorrow(page)
    page.get_by_role("button", name="Planner").click()
    page.get_by_role("button", name="Make a proposal").click()
    page.get_by_role("button", name=re.compile("^Accept all")).wait_for(timeout=60_000)
    page.get_by_label("Changes").get_by_role("listitem").nth(1).hover()
    page.wait_for_timeout(1200)
    return page


def board_week(camera: Camera) -> Page:
    page = board(camera)
    page.goto("/board?span=7&group=depot&hue=area")
    page.locator("button[data-day]").first.wait_for()
    page.wait_for_timeout(2500)
    return page


def board_map(camera: Camera) -> Page:
    page = board(camera)
    page.goto("/board?view=both")
    page.locator("[data-map][aria-busy=false]").wait_for()
    page.locator("[data-lane] button[data-visit]").nth(8).click()
    page.wait_for_timeout(2500)
    return page


def intake(camera: Camera) -> Page:
    page = camera.page("ivo.brandt")
    page.get_by_label("Find the caller").fill("ferry terminal")
    page.get_by_label("Customers found").get_by_role("option").first.click()
    page.get_by_label("What is wrong").fill("Lift 2 stands on the ground floor, display shows E31")
    page.get_by_label("Job type").select_option(label="Lift stopped")
    page.get_by_label("Windows that can be kept").locator("label").nth(1).wait_for()
    page.keyboard.press("Alt+Digit1")
    page.wait_for_timeout(5000)
    return page


def order(camera: Camera) -> Page:
    page = camera.page("ivo.brandt")
    page.get_by_label("Find the caller").fill("ferry terminal")
    page.get_by_label("Customers found").get_by_role("option").first.click()
    page.get_by_label("What is wrong").fill("Old lift in hall B: new machine, doors and controller")
    page.get_by_label("Job type").select_option(label="Modernisation survey")
    page.get_by_label("Windows that can be kept").locator("label").nth(1).wait_for()
    page.keyboard.press("Alt+Digit2")
    page.keyboard.press("Control+Enter")
    page.locator("[data-sonner-toast]").first.wait_for()
    page.goto("/orders")
    page.get_by_label("Orders", exact=True).get_by_role("link").first.click()
    page.get_by_label("Visits", exact=True).get_by_role("img").wait_for()
    page.wait_for_timeout(600)
    return page


def customer(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.goto("/customers/1")
    page.get_by_label("Main Building").get_by_role("button").first.click()
    page.wait_for_timeout(5000)
    return page


def capacity(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.goto("/capacity")
    page.get_by_label("Hours by area and day").locator("td").first.wait_for()
    return page


def phone_day(camera: Camera) -> Page:
    page = camera.page("ines.falk", phone=True)
    page.locator("ol a").first.wait_for()
    return page


def phone_visit(camera: Camera) -> Page:
    page = phone_day(camera)
    page.locator("ol a").nth(2).click()
    page.get_by_role("button", name="The way there").click()
    page.wait_for_timeout(6000)
    return page


def first_steps(camera: Camera) -> Page:
    page = camera.page("ada.reyne")
    page.goto("/set-up/first-steps")
    page.get_by_role("list", name="First steps").wait_for()
    page.wait_for_timeout(800)
    return page


def quote(camera: Camera) -> Page:
    """A draft with several ways to do it."""
    page = camera.page("dora.quill")
    page.goto("/quotes")
    page.get_by_role("group", name="By state").get_by_role("button", name=re.compile("draft")).click()
    page.get_by_role("table", name="Quotes").get_by_role("row").filter(has_text="Door drive").first.wait_for()
    row = page.get_by_role("table", name="Quotes").get_by_role("row").filter(has_text="Door drive").first
    row.get_by_role("link").click()
    page.get_by_role("region", name="Is the price right?").wait_for()
    page.wait_for_timeout(1000)
    return page


def quote_customer(camera: Camera) -> Page:
    """What was sent, on the customer's phone."""
    page = camera.page("dora.quill")
    page.goto("/quotes")
    page.get_by_role("group", name="By state").get_by_role("button", name=re.compile("sent")).click()
    row = page.get_by_role("table", name="Quotes").get_by_role("row").filter(has_text="Frequency inverter").first
    row.get_by_role("link").click()
    path = page.get_by_role("link", name="as the customer reads it").first.get_attribute("href")
    page.context.close()
    phone = camera.page(phone=True)
    phone.goto(path or "/")
    phone.get_by_role("form", name="Approve").wait_for()
    phone.wait_for_timeout(800)
    return phone


def prices(camera: Camera) -> Page:
    page = camera.page("ada.reyne")
    page.goto("/set-up/prices")
    page.get_by_role("button", name="Yearly check of a passenger lift").click()
    page.wait_for_timeout(800)
    return page


def stock_next_day(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.goto("/stock/tonight")
    page.get_by_role("button", name="Take it instead").first.wait_for()
    page.wait_for_timeout(1500)
    return page


def part(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.goto("/stock/parts/door-roller")
    page.get_by_role("heading", name="Door roller").first.wait_for()
    page.wait_for_timeout(1500)
    return page


def van(camera: Camera) -> Page:
    page = camera.page("dora.quill")
    page.goto("/stock/places")
    page.get_by_role("link", name="Van 1", exact=True).first.click()
    page.get_by_role("heading", name="Van 1").wait_for()
    page.wait_for_timeout(1500)
    return page


SHOTS: dict[str, Callable[[Camera], Page]] = {
    "board": board,
    "board-drag": board_drag,
    "board-week": board_week,
    "board-map": board_map,
    "details": details,
    "proposal": proposal,
    "intake": intake,
    "order": order,
    "customer": customer,
    "capacity": capacity,
    "first-steps": first_steps,
    "quote": quote,
    "quote-customer": quote_customer,
    "prices": prices,
    "stock-next-day": stock_next_day,
    "part": part,
    "van": van,
    "phone-day": phone_day,
    "phone-visit": phone_visit,
}


def main(url: str, folder: str, *names: str) -> int:
    unknown = set(names) - set(SHOTS)
    if unknown:
        print(f"no such picture: {', '.join(sorted(unknown))}; there are {', '.join(SHOTS)}")
        return 2
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        camera = Camera(browser, url)
        for name, shoot in SHOTS.items():
            if names and name not in names:
                continue
            page = shoot(camera)
            page.screenshot(path=f"{folder}/{name}.png")
            page.context.close()
    return 0


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
