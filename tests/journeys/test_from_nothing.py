"""From an empty company to the first visit done on the phone, in the interface only."""

import re
import time
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.journeys.board import say_why_if_asked, toast
from tests.journeys.conftest import DESK, PHONE, RunningWorld, started

# More than this, and nobody is at the first planned day in half an hour.
MOST_ACTIONS = 200


@dataclass
class Hands:
    """What somebody does: each press, each field that is filled in, each choice is one action."""

    actions: int = 0

    def click(self, what: Locator) -> None:
        self.actions += 1
        what.click()

    def fill(self, what: Locator, text: str) -> None:
        self.actions += 1
        what.fill(text)

    def choose(self, what: Locator, label: str) -> None:
        self.actions += 1
        what.select_option(label=label)

    def press(self, page: Page, key: str) -> None:
        self.actions += 1
        page.keyboard.press(key)


@dataclass
class Walk:
    """One way through an empty company."""

    desk: Page
    phone: Page
    letters: Path
    hands: Hands

    def go(self, email: str, password: str) -> None:
        self.sign_in(email, password)
        self.name_the_company()
        self.add_a_depot()
        self.take_job_types()
        self.add_a_technician()
        self.invite_the_technician()
        self.take_a_call()
        self.place_and_send()
        self.do_the_work()

    def sign_in(self, email: str, password: str) -> None:
        self.desk.goto("/")
        self.hands.fill(self.desk.get_by_label("E-mail"), email)
        self.hands.fill(self.desk.get_by_label("Password"), password)
        self.hands.click(self.desk.get_by_role("button", name="Sign in"))
        self.hands.click(self.desk.get_by_role("link", name="First steps of the set-up"))
        expect(self.desk.get_by_role("status")).to_contain_text("3 steps are missing")

    def step(self, name: str) -> None:
        """To a step, from the list of them."""
        steps = self.desk.get_by_role("list", name="First steps")
        if not steps.is_visible():
            self.hands.click(self.desk.get_by_role("link", name="First steps", exact=True))
        self.hands.click(steps.get_by_role("link", name=name, exact=True))

    def name_the_company(self) -> None:
        self.step("Company")
        form = self.desk.get_by_role("form", name="Company")
        self.hands.fill(form.get_by_label("Name", exact=True), "Vale & Daughters")
        self.hands.choose(form.get_by_label("Country"), "Portugal")
        self.hands.choose(form.get_by_label("Region"), "Região Autónoma dos Açores")
        self.hands.click(form.get_by_role("button", name="Save company"))
        toast(self.desk, "Vale & Daughters is saved")

    def add_a_depot(self) -> None:
        self.step("Depots")
        self.hands.click(self.desk.get_by_role("button", name="New depot"))
        form = self.desk.get_by_role("form", name="Depot")
        self.hands.fill(form.get_by_label("Name", exact=True), "Yard")
        self.address(form, "Millrace Road 20")
        self.hands.click(form.get_by_role("button", name="Save depot"))
        toast(self.desk, "Yard is saved")

    def address(self, form: Locator, text: str) -> None:
        self.hands.fill(form.get_by_role("combobox", name="Address"), text)
        self.hands.click(self.desk.get_by_role("option", name=text).first)

    def take_job_types(self) -> None:
        self.step("Job types")
        self.hands.click(self.desk.get_by_role("button", name="From a trade"))
        self.hands.click(self.desk.get_by_role("button", name="all of doors and gates"))
        self.hands.click(self.desk.get_by_role("button", name="Make 6 job types"))
        toast(self.desk, "6 job types are made")

    def add_a_technician(self) -> None:
        self.step("Technicians")
        self.hands.click(self.desk.get_by_role("button", name="New technician"))
        form = self.desk.get_by_role("form", name="Technician")
        self.hands.fill(form.get_by_label("Name", exact=True), "Rui Vale")
        self.hands.fill(form.get_by_label("E-mail"), "rui@vale.example")
        self.hands.choose(form.get_by_label("Add a skill"), "Doors")
        self.hands.choose(form.get_by_label("Level of Doors"), "3")
        self.hands.click(form.get_by_role("button", name="Save technician"))
        hours = self.desk.get_by_role("form", name="Working hours")
        monday = hours.get_by_role("group", name="Mon")
        self.hands.fill(monday.get_by_label("From", exact=True), "8")
        self.hands.fill(monday.get_by_label("To", exact=True), "17")
        self.hands.press(self.desk, "Tab")
        self.hands.click(hours.get_by_role("button", name="the same until Friday"))
        self.hands.click(hours.get_by_role("button", name="Save working hours"))
        toast(self.desk, "Rui Vale works these hours")

    def invite_the_technician(self) -> None:
        self.step("Accounts")
        self.hands.click(self.desk.get_by_role("button", name="Invite somebody"))
        form = self.desk.get_by_role("form", name="Invite somebody")
        self.hands.fill(form.get_by_label("E-mail"), "rui@vale.example")
        self.hands.fill(form.get_by_label("Name", exact=True), "Rui Vale")
        self.hands.choose(form.get_by_label("Role"), "technician: works from a phone")
        self.hands.choose(form.get_by_label("Works from the phone as"), "Rui Vale")
        self.hands.click(form.get_by_role("button", name="Send the invitation"))
        toast(self.desk, "A letter to rui@vale.example is on its way")
        self.phone.goto(self.link_in_the_letter())
        expect(self.phone.get_by_text("Rui Vale, choose the password")).to_be_visible()
        self.hands.fill(self.phone.get_by_role("textbox", name="Password"), "a-password-of-my-own")
        self.hands.click(self.phone.get_by_role("button", name="Choose this password and sign in"))
        expect(self.phone.get_by_text("Nothing has been sent to you for today.")).to_be_visible()

    def link_in_the_letter(self) -> str:
        """Where the letter leads, once the worker has sent it."""
        for _ in range(1800):
            for letter in self.letters.glob("*"):
                if found := re.search(r"https?://\S+", letter.read_text().replace("=\n", "")):
                    return urlsplit(found[0])._replace(scheme="", netloc="").geturl()
            time.sleep(0.1)
        raise AssertionError("no letter came")

    def take_a_call(self) -> None:
        self.hands.click(self.desk.get_by_role("link", name="Intake"))
        self.hands.fill(self.desk.get_by_label("Find the caller"), "Pebble Yard Bakery")
        self.hands.click(self.desk.get_by_role("button", name="New customer"))
        form = self.desk.get_by_role("form", name="New customer")
        self.hands.fill(form.get_by_label("Phone", exact=True), "+351 296 700 700")
        self.address(form, "Millrace Road 22")
        self.hands.click(form.get_by_role("button", name="Save customer and site"))
        self.hands.fill(self.desk.get_by_label("What is wrong"), "Back door slams")
        self.hands.choose(self.desk.get_by_label("Job type"), "Noisy door")
        expect(self.desk.get_by_label("Length")).to_have_value("45")
        self.hands.click(self.desk.get_by_role("button", name="Make work order"))
        toast(self.desk, "is in the backlog")

    def place_and_send(self) -> None:
        self.hands.click(self.desk.get_by_role("link", name="Board", exact=True))
        row = self.desk.get_by_label("Backlog", exact=True).locator("button[data-visit]").first
        expect(row).to_be_visible()
        row.focus()
        self.hands.press(self.desk, "m")
        self.desk.get_by_test_id("verdict").locator("li").first.wait_for()
        self.hands.press(self.desk, "Enter")
        say_why_if_asked(self.desk)
        toast(self.desk, "placed: Rui Vale")
        self.hands.click(self.desk.get_by_role("button", name=re.compile(r"^Send \d")))
        sheet = self.desk.get_by_role("dialog", name="What is sent")
        expect(sheet.get_by_role("list", name="Messages").get_by_role("listitem").first).to_be_visible()
        self.hands.click(sheet.get_by_role("button", name=re.compile("^Send")))

    def do_the_work(self) -> None:
        self.hands.click(self.phone.get_by_role("link", name=re.compile("Millrace Road 22")))
        for action in ("Accept", "Set out", "Arrived"):
            self.hands.click(self.phone.get_by_role("button", name=action, exact=True))
        self.hands.click(self.phone.get_by_role("button", name="Finish"))
        self.hands.fill(self.phone.get_by_label("What was done?"), "New closer fitted")
        self.hands.click(self.phone.get_by_role("button", name="Finish"))
        station = self.desk.locator("[data-lane] button[data-visit]").first
        expect(station).to_have_attribute("aria-label", re.compile("done"))


def walk_in(browser: Browser, world: RunningWorld, said: str) -> tuple[int, float]:
    """Walk once; how many actions that took, and how many seconds."""
    [email] = re.findall(r"Sign in as (\S+)", said)
    [password] = re.findall(r"password (\S+)", said)
    desk, phone = (
        browser.new_context(base_url=world.url, viewport=size, service_workers="block") for size in (DESK, PHONE)
    )
    try:
        letters = Path(urlsplit(world.env["RELAY_EMAIL_URL"]).path[1:])
        walk = Walk(desk=desk.new_page(), phone=phone.new_page(), letters=letters, hands=Hands())
        began = time.monotonic()
        walk.go(email, password)
        return walk.hands.actions, time.monotonic() - began
    finally:
        desk.close()
        phone.close()


def files_of(people: int, folder: Path) -> dict[str, Path]:
    """A company of so many as files: two depots, skills, a van each, everybody, their hours."""
    who = [f"Person {number:03}" for number in range(people)]
    texts = {
        "depots": ["name,address", "North yard,Millrace Road 30", "South yard,Millrace Road 60"],
        "skills": ["name", "Door drives", "Rope work"],
        "vehicles": ["name,plate,depot", *(f"{name}'s van,V-{name[-3:]},North yard" for name in who)],
        "people": [
            "name,depot,skills,vehicle,phone",
            *(f'{name},{"South" if number % 2 else "North"} yard,"Door drives {1 + number % 5}, Rope work 1",'
              f"{name}'s van,+351 296 {number:06}" for number, name in enumerate(who)),
        ],
        "shifts": [
            "technician,days,start,end,break_minutes,break_earliest,break_latest",
            *(f"{name},Mon-Fri,22:00,06:00,,," if number % 10 == 0 else f"{name},Mon-Fri,8:00,16:30,30,11:30,14:00"
              for number, name in enumerate(who)),
        ],
    }  # fmt: skip
    found = {}
    for kind, lines in texts.items():
        found[kind] = folder / f"{kind}.csv"
        found[kind].write_text("\n".join(lines))
    return found


def bring_files(page: Page, hands: Hands, files: dict[str, Path]) -> None:
    """Each file is looked at first; what is said then is what comes of it."""
    hands.click(page.get_by_role("link", name="Set-up", exact=True))
    hands.click(page.get_by_role("link", name="From files", exact=True))
    for kind, path in files.items():
        hands.click(page.get_by_role("group", name="What the file is about").get_by_role("button", name=kind.title()))
        part = page.get_by_role("region", name=kind.title())
        hands.actions += 1
        with page.expect_file_chooser() as chooser:
            part.get_by_text(f"Choose a file of {kind}").click()
        chooser.value.set_files(path)
        would = part.get_by_text(re.compile("^Would be: "))
        expect(would).to_contain_text(" 0 refused", timeout=180_000)
        said = would.inner_text().removeprefix("Would be: ")
        hands.click(part.get_by_role("button", name=re.compile("^Bring in")))
        expect(part.get_by_text(f"Done: {said}")).to_be_visible(timeout=180_000)


def walk_in_by_files(browser: Browser, world: RunningWorld, said: str, people: int, folder: Path) -> tuple[int, float]:
    """From nobody to a board with everybody on it; how many actions that took, and how many seconds."""
    [email] = re.findall(r"Sign in as (\S+)", said)
    [password] = re.findall(r"password (\S+)", said)
    desk = browser.new_context(base_url=world.url, viewport=DESK, service_workers="block")
    try:
        page, hands = desk.new_page(), Hands()
        began = time.monotonic()
        page.goto("/sign-in")
        hands.fill(page.get_by_label("E-mail"), email)
        hands.fill(page.get_by_role("textbox", name="Password"), password)
        hands.click(page.get_by_role("button", name="Sign in", exact=True))
        bring_files(page, hands, files_of(people, folder))
        hands.click(page.get_by_role("link", name="Technicians"))
        rows = page.get_by_role("list", name="Technicians").get_by_role("button", name=re.compile("^Person "))
        expect(rows).to_have_count(people)
        hands.click(page.get_by_role("link", name="Board"))
        # Only the lanes on screen are drawn.
        expect(page.get_by_text(re.compile(r"^Person \d+$")).first).to_be_visible()
        return hands.actions, time.monotonic() - began
    finally:
        desk.close()


@pytest.fixture(scope="module")
def empty():
    with started("nothing", demo=False) as world_and_words:
        yield world_and_words


def test_an_owner_is_at_the_first_visit_done_without_anybody_s_help(browser, empty):
    actions, _seconds = walk_in(browser, *empty)
    assert actions < MOST_ACTIONS


def test_a_company_of_many_comes_by_files(browser, empty, tmp_path):
    actions, _seconds = walk_in_by_files(browser, *empty, people=24, folder=tmp_path)
    assert actions < 30
