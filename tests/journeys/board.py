"""What the journeys do on the board, in a dispatcher's words."""

import re

from playwright.sync_api import Locator, Page, Response, TimeoutError, expect

from tests.journeys.conftest import settled


def lane(page: Page, technician: str) -> Locator:
    return page.get_by_role("listitem", name=technician, exact=True)


def backlog_row(page: Page, text: str) -> Locator:
    return page.get_by_label("Backlog", exact=True).locator("button[data-visit]", has_text=text).first


def search_backlog(page: Page, text: str) -> None:
    """Type into the backlog's search and wait for its answer."""
    field = page.get_by_label("Search the backlog")
    if field.input_value() == text:
        return
    with page.expect_response(lambda answer: _asks_for(answer, text)):
        field.fill(text)
    settled(page)


def _asks_for(answer: Response, text: str) -> bool:
    return answer.url.endswith("/board/backlog") and (answer.request.post_data_json or {}).get("text") == text


def x_of_hour(page: Page, hour: int) -> float:
    label = page.locator("time", has_text=re.compile(f"^{hour:02d}:00$")).first.bounding_box()
    assert label is not None
    return label["x"] + label["width"] / 2


def drag_to(page: Page, what: Locator, technician: str, hour: int, *, drop: bool = True) -> None:
    """Take something by its left end and carry it to an hour on a technician's line."""
    expect(what).to_be_visible()
    target = lane(page, technician)
    into_the_middle(target)
    what.hover(position={"x": 4, "y": 8})  # waits until it stands still
    start, end = what.bounding_box(), target.bounding_box()
    assert start is not None
    assert end is not None
    page.mouse.move(start["x"] + 3, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(x_of_hour(page, hour), end["y"] + end["height"] / 2, steps=8)
    if drop:
        page.mouse.up()


def into_the_middle(what: Locator) -> None:
    """Away from the edges, where messages may lie over it."""
    what.evaluate("element => element.scrollIntoView({ block: 'center' })")


def drag_onto(page: Page, what: Locator, target: Locator) -> None:
    into_the_middle(what)
    start, end = what.bounding_box(), target.bounding_box()
    assert start is not None
    assert end is not None
    page.mouse.move(start["x"] + 3, start["y"] + start["height"] / 2)
    page.mouse.down()
    page.mouse.move(end["x"] + end["width"] / 2, end["y"] + 12, steps=8)
    page.mouse.up()


def station(page: Page, technician: str, text: str) -> Locator:
    return lane(page, technician).locator(f'button[data-visit][aria-label*="{text}"]')


def toast(page: Page, text: str) -> None:
    # To the letter: "Not undone" is not "Undone".
    expect(page.locator("[data-sonner-toast]", has_text=re.compile(re.escape(text))).first).to_be_visible()


def say_why_if_asked(page: Page) -> None:
    """Where the placement breaks a limit that a person may override, the board asks why."""
    asked = page.get_by_role("dialog", name="There all the same?")
    try:
        asked.wait_for(timeout=2500)
    except TimeoutError:
        # On a busy machine it takes longer, to ask as well as to do it.
        asked.or_(page.locator("[data-sonner-toast]")).first.wait_for(timeout=30_000)
        if not asked.is_visible():
            return  # nothing spoke against it
    asked.get_by_label("Why").fill("They agreed by phone")
    page.keyboard.press("Enter")
    expect(asked).to_have_count(0)


def open_tomorrow(page: Page) -> str:
    """The next working day, which has room; its name."""
    for _ in range(3):
        page.get_by_role("button", name="Day after").click()
        name = page.locator("h1").inner_text()
        if not name.startswith(("Sat", "Sun")):
            break
    expect(page.locator("h1")).to_have_text(name)
    expect(page.get_by_text("fetching…")).to_have_count(0)
    return name


def free_lane(page: Page) -> str:
    """A technician who goes everywhere and has a shift: the one with the fewest visits."""
    lanes = page.get_by_role("listitem").filter(has=page.locator("[data-lane]"))
    names = [row.get_attribute("aria-label") or "" for row in lanes.all()]
    counts = {name: lane(page, name).locator("button[data-visit]").count() for name in names}
    return min(counts, key=lambda name: counts[name])


def first_easy(page: Page) -> tuple[int, str]:
    """Id and site of a backlog visit that anybody may have at any time: no skill, no promise, and it stands nowhere."""
    search_backlog(page, "light")
    rows = page.get_by_label("Backlog", exact=True).locator("button[data-visit]", has_text="Car light replacement")
    row = rows.filter(has_not_text=re.compile(r"· now |\d:\d\d–")).first
    expect(row).to_be_visible()
    return int(row.get_attribute("data-visit") or 0), row.locator("span").nth(3).inner_text()


def row_of(page: Page, visit_id: int):
    return page.get_by_label("Backlog", exact=True).locator(f"button[data-visit='{visit_id}']")


def station_of(page: Page, visit_id: int):
    return page.locator(f"[data-lane] button[data-visit='{visit_id}']")


def send_everything(page: Page) -> None:
    """Send what is placed and was not sent, once its messages are there to be read."""
    page.get_by_role("button", name=re.compile(r"^Send \d")).click()
    sheet = page.get_by_role("dialog", name="What is sent")
    expect(sheet.get_by_role("list", name="Messages").get_by_role("listitem").first).to_be_visible()
    sheet.get_by_role("button", name=re.compile("^Send")).click()


def place_by_keyboard(page: Page, visit_id: int) -> None:
    """Pick a backlog visit up and put it down where the board first offers it."""
    row_of(page, visit_id).focus()
    page.keyboard.press("m")
    page.get_by_test_id("verdict").locator("li").first.wait_for()
    page.keyboard.press("Enter")
    say_why_if_asked(page)
    toast(page, "placed")


def command_field(page: Page, words: str) -> None:
    """Open the command field and type; what is typed before it stands there would be lost."""
    page.keyboard.press("Control+k")
    expect(page.locator("[cmdk-input]")).to_be_focused()
    page.keyboard.type(words)


def command(page: Page, words: str) -> None:
    """Do what the command field marks for these words. On a busy machine it takes a moment until something is."""
    command_field(page, words)
    page.get_by_role("option", selected=True).first.wait_for()
    page.keyboard.press("Enter")
    expect(page.locator("[cmdk-input]")).to_have_count(0)


def go_to(page: Page, place: str) -> None:
    """A place that does not stand at the top, by the command field."""
    page.get_by_role("button", name="Find or do anything").click()
    expect(page.locator("[cmdk-input]")).to_be_focused()
    page.keyboard.type(place)
    page.get_by_role("group", name="Go to").get_by_role("option").first.click()
