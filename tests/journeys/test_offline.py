"""A phone without a signal: its pages open, what was taken along is there, and nothing recorded is lost."""

import re
import time
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from tests.journeys.conftest import ADMINISTRATOR, PHONE, TECHNICIAN, RunningWorld, sign_in_as
from tests.journeys.test_live import Session
from tests.journeys.test_phone import (
    comes_to,
    desk,
    finish,
    finish_what_is_under_way,
    given_to_ines,
    ines_of,
    placed_and_sent,
    press,
    take_back,
)

__all__ = ["desk"]


def ready(sign_in) -> Page:
    """A phone that has kept its pages and taken along what there is."""
    page: Page = sign_in(TECHNICIAN, viewport=PHONE, keeps_pages=True)
    page.goto("/field/this-phone")
    page.evaluate("navigator.serviceWorker.ready.then(() => null)")
    expect(page.get_by_text("as of")).to_be_visible()
    page.wait_for_function("caches.open('map').then((map) => map.keys()).then((keys) => keys.length === 3)")
    return page


def opened_without_a_signal(page: Page, path: str) -> Page:
    """The tab is gone, the signal too, and somebody opens the phone again."""
    context = page.context
    page.close()
    context.set_offline(True)
    page = context.new_page()
    page.goto(path)
    return page


def test_the_day_opens_cold_without_a_signal_and_what_is_done_arrives(sign_in, desk):
    finish_what_is_under_way(desk)
    visit = placed_and_sent(desk)
    page = opened_without_a_signal(ready(sign_in), "/field")
    # She has not looked at this visit before: it was taken along with the day.
    page.locator(f"a[href='/field/{visit['id']}']").click()
    expect(page.get_by_role("heading", name=visit["title"])).to_be_visible()
    press(page, "Accept", "Set out", "Arrived")
    finish(page, "Two lamps changed")
    page.goto("/field/this-phone")
    expect(page.get_by_role("listitem")).to_have_text(
        [re.compile(words) for words in ("accepted", "set out", "arrived", "finished: Two lamps changed")]
    )
    # The land and its roads came along as well, without anybody having opened a map.
    assert page.evaluate("caches.open('map').then((map) => map.keys()).then((keys) => keys.length)") == 3
    page.context.set_offline(False)
    done = comes_to(desk, visit["id"], "done")
    assert [row["step"] for row in done["events"]][-4:] == ["accept", "depart", "arrive", "finish"]
    expect(page.get_by_text("Nothing: everything you recorded is at the office.")).to_be_visible()


def test_whose_session_has_ended_goes_on_recording_and_sends_after_signing_in(sign_in, desk, running: RunningWorld):
    finish_what_is_under_way(desk)
    visit = placed_and_sent(desk)
    phone = ready(sign_in)
    phone.context.clear_cookies(name="relay_session")
    phone.goto(f"/field/{visit['id']}")
    expect(phone.get_by_text("You have been signed out.")).to_be_visible()
    press(phone, "Accept")
    expect(phone.get_by_text("1 thing is still on this phone")).to_be_visible()
    phone.get_by_role("link", name="Sign in").click()
    expect(phone.get_by_label("E-mail")).to_be_visible()
    phone.close()
    page = sign_in_as(phone.context, running, TECHNICIAN)
    page.goto("/field")
    comes_to(desk, visit["id"], "accepted")
    expect(page.get_by_text("You have been signed out.")).to_have_count(0)
    take_back(desk, visit["id"])


def test_a_phone_that_the_office_signs_out_shows_nothing_any_more(sign_in, running: RunningWorld):
    phone = ready(sign_in)
    office = Session(running.url, ADMINISTRATOR)
    account = next(row for row in office.call("GET", "/api/v1/accounts") if row["email"] == TECHNICIAN)
    [known, *_others] = office.call("GET", f"/api/v1/field/phones/of/{account['id']}")
    phone.goto("/field")
    expect(phone.get_by_role("heading", name="Ines Falk")).to_be_visible()
    office.call("POST", f"/api/v1/field/phones/{known['id']}/sign-out", {})
    expect(phone.get_by_label("E-mail")).to_be_visible()
    page = opened_without_a_signal(phone, "/field")
    expect(page.get_by_role("heading", name="Ines Falk")).to_have_count(0)


def upkeeps_of_ines(desk: Session, count: int) -> list[dict]:
    """So many visits with a form and tasks that she may do, hers, sent."""
    made = []
    for visit in desk.call("POST", "/api/v1/board/backlog", {"text": "upkeep"})["visits"]:
        report = desk.call("GET", f"/api/v1/reports/of-visit/{visit['id']}")
        asks = {row["key"] for row in report["questions"]}
        easy = visit["state"] == "open" and visit["promise"] is None and "traction" in visit["needs"]
        if easy and {"door_gap", "levelling"} <= asks:
            made.append(given_to_ines(desk, visit, before_the_end=3600 * (count - len(made))))
        if len(made) == count:
            return made
    raise AssertionError(f"only {len(made)} of {count}")


def photo_files(folder: Path, count: int) -> list[str]:
    """Photos as a camera makes them: much larger than what is kept."""
    paths = [folder / f"photo-{number}.jpg" for number in range(count)]
    for number, path in enumerate(paths):
        Image.effect_noise((1800, 1200), 40 + number).convert("RGB").save(path, "JPEG", quality=70)
    return [str(path) for path in paths]


def work_through(page: Page, visit: dict, photos: list[str]) -> None:
    """Everything there is to do at a visit, by what the page leads to."""
    page.locator(f"a[href='/field/{visit['id']}']").click()
    expect(page.get_by_role("heading", name=visit["title"])).to_be_visible()
    press(page, "Accept", "Set out", "Arrived")
    # Nothing is finished before the form is: it is the large button.
    expect(page.get_by_role("button", name="Finish")).to_have_count(0)
    page.locator("a", has_text=re.compile("^Form")).last.click()
    page.get_by_role("textbox", name="Gap of the car door").fill("4,5")
    page.get_by_role("textbox", name="Levelling, worst floor").fill("3")
    page.get_by_role("radio", name="No").click()
    page.get_by_role("link", name="Next: Tasks").click()
    expect(page.get_by_role("heading", name="Tasks")).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.click()
        expect(box).to_be_checked()
    page.get_by_role("link", name="Back to the visit").click()
    page.get_by_role("link", name=re.compile("^Not done Photos")).click()
    page.get_by_label("Choose photos").set_input_files(photos)
    expect(page.get_by_label(f"What photo {len(photos)} shows")).to_be_visible()
    page.get_by_label("What photo 1 shows").fill("The sill")
    page.get_by_role("link", name="Back to the visit").click()
    take_down_what_it_took(page)
    page.get_by_role("link", name=re.compile("^Not done Customer")).click()
    page.get_by_label("Your name").fill("Jonas Radley")
    page.get_by_role("radio", name="5").click()
    pad = page.get_by_label("Signature").bounding_box()
    assert pad
    page.mouse.move(pad["x"] + 30, pad["y"] + 40)
    page.mouse.down()
    page.mouse.move(pad["x"] + 180, pad["y"] + 90, steps=8)
    page.mouse.up()
    press(page, "Sign")
    expect(page.get_by_role("heading", name="Signed")).to_be_visible()
    page.get_by_role("link", name="Back to the visit").click()
    finish(page, "Cleaned and measured")
    page.get_by_role("link", name="My day").click()


def take_down_what_it_took(page: Page) -> None:
    """A part that nobody had planned, found in the list that lies on the phone; and the times are right."""
    page.get_by_role("link", name=re.compile("^Not done Parts")).click()
    page.get_by_label("Another part: name, number or label").fill("car lamp")
    page.get_by_role("list", name="Found").get_by_role("button").first.click()
    expect(page.get_by_role("group", name=re.compile("^Car lamp.*, used$"))).to_be_visible()
    page.get_by_role("main").get_by_role("link").first.click()
    page.get_by_role("link", name=re.compile("^Not done Time")).click()
    page.get_by_role("button", name="The times are right").click()
    expect(page.get_by_role("button", name="The times are right")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("main").get_by_role("link").first.click()


def a_break(page: Page) -> None:
    """The day's own log, without a signal like everything else."""
    page.get_by_role("link", name="Day log").click()
    page.get_by_role("button", name="Begin a break").click()
    expect(page.get_by_text(re.compile("^Break .* until now"))).to_be_visible()
    page.get_by_role("button", name="End the break").click()
    expect(page.get_by_role("button", name="Begin a break")).to_be_visible()
    page.get_by_role("link", name="My day").click()


def breaks_of_today(desk: Session) -> list[dict]:
    newest: dict = desk.call("GET", f"/api/v1/day-logs/of-technician/{ines_of(desk)}")[0]
    return [row for row in newest["pauses"] if row["until"] is not None]


def as_office_reads(report: dict) -> dict:
    """What of a report does not hang on when it was looked at."""
    kept = ("state", "tasks", "answers", "notes", "acceptance", "looked", "entries")
    return {name: report[name] for name in kept} | {"photos": [row["caption"] for row in report["pictures"]]}


def arrived(desk: Session, visit_id: int, pictures: int) -> dict:
    """The report, once all its pictures have come."""
    for _ in range(600):
        report = desk.call("GET", f"/api/v1/reports/of-visit/{visit_id}")
        if sum(row["here"] for row in report["pictures"]) == pictures:
            return report
        time.sleep(0.2)
    raise AssertionError(f"of {pictures} pictures there are {[row['here'] for row in report['pictures']]}")


def test_a_whole_day_without_a_signal_is_all_there_once(sign_in, desk, tmp_path):
    finish_what_is_under_way(desk)
    visits, breaks = upkeeps_of_ines(desk, 2), len(breaks_of_today(desk))
    photos = photo_files(tmp_path, 12)
    page = opened_without_a_signal(ready(sign_in), "/field")
    work_through(page, visits[0], photos[:6])
    a_break(page)
    # The battery is empty, and the phone starts again; what was being typed is still there.
    page.locator(f"a[href='/field/{visits[1]['id']}']").click()
    expect(page.get_by_role("heading", name=visits[1]["title"])).to_be_visible()
    page.get_by_role("link", name=re.compile("Notes")).click()
    page.get_by_label("For the office").press_sequentially("gate is bro", delay=40)
    page.wait_for_timeout(200)  # no battery is faster than a hand
    context = page.context
    page.close()
    page = context.new_page()
    page.goto(f"/field/{visits[1]['id']}/work/notes")
    expect(page.get_by_label("For the office")).to_have_value("gate is bro")
    page.goto("/field")
    work_through(page, visits[1], photos[6:])
    expect(page.get_by_text("14 pictures are still on this phone")).to_be_visible()
    for visit in visits:
        assert desk.call("GET", f"/api/v1/visits/{visit['id']}")["state"] == "sent"
    context.set_offline(False)
    for visit in visits:
        comes_to(desk, visit["id"], "done")
        report = arrived(desk, visit["id"], 7)
        assert [row["value"] for row in report["answers"]] == [4.5, 3, False]
        assert all(row["at"] for row in report["tasks"])
        assert report["acceptance"]["name"] == "Jonas Radley"
        [part] = [row for row in report["entries"]["used"] if row["name"].startswith("Car lamp")]
        assert (part["quantity"], part["by"]) == (1, "Ines Falk")
        assert report["entries"]["nothing_more"] == ["time"]
        assert [row["caption"] for row in report["pictures"]].count("The sill") == 1
        # The phone and the office read the same.
        own = page.evaluate(f"fetch('/api/v1/field/visits/{visit['id']}').then((answer) => answer.json())")["report"]
        assert as_office_reads(own) == as_office_reads(report)
    expect(page.get_by_text("still on this phone")).to_have_count(0)
    assert len(breaks_of_today(desk)) == breaks + 1
