"""Parts for the next day, what is asked for and ordered, what comes back, what is lent, and what is counted."""

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.journeys.board import toast
from tests.journeys.conftest import DISPATCHER, SECOND, RunningWorld, started

pytestmark = pytest.mark.xdist_group("stock")


@pytest.fixture(scope="module")
def running() -> Iterator[RunningWorld]:
    """A world of its own: what is missing here is missed by nobody else's journey."""
    with started("stock", demo=True) as (world, _said):
        yield world


@pytest.fixture
def page(sign_in) -> Page:
    opened: Page = sign_in(DISPATCHER)
    opened.get_by_role("link", name="Stock").click()
    expect(opened.get_by_role("heading", name=re.compile("^Parts for"))).to_be_visible()
    return opened


def tab(page: Page, name: str) -> Locator:
    return page.get_by_role("link", name=re.compile(f"^{name}"))


def missing(page: Page) -> int:
    """How many the page says are missing; none when it says so."""
    said = page.get_by_text(re.compile(r"\d+ parts? (is|are) missing|Nothing is missing"))
    expect(said.first).to_be_visible()
    number = re.match(r"\d+", said.first.inner_text())
    return int(number[0]) if number else 0


def take(page: Page, words: str) -> str:
    """Press the first way of that kind; what it said of itself."""
    button = page.get_by_role("button", name=words, exact=True).first
    expect(button).to_be_visible()
    said = button.locator("xpath=..").inner_text()
    button.click()
    return said


def test_what_is_missing_tomorrow_is_got_in_three_ways(page):
    count = missing(page)
    assert count == 3
    for words in ("Take it instead", "Have it handed over", "Make the stop"):
        said = take(page, words)
        assert "✓" in said, said
        toast(page, "Done: ")
        count -= 1
        left = f"{count} part" if count else "Nothing is missing"
        expect(page.get_by_text(re.compile(f"^.?.?{left}")).first).to_be_visible()
    # The tab counts what the page counts.
    expect(tab(page, "Next day")).not_to_contain_text("missing")
    # What was promised is on the list of whoever takes it, and the stop stands on the board like other work.
    page.get_by_role("button", name=re.compile("^Show the ")).click()
    expect(page.get_by_text(re.compile(r"^→ \d+ × ")).first).to_be_visible()


def test_what_is_picked_with_a_scanner_is_on_the_van(page):
    page.get_by_role("link", name=re.compile(r"^Pick \d")).first.click()
    rows = page.get_by_role("list", name="To pick").get_by_role("listitem")
    expect(rows.first).to_be_visible()
    field = page.get_by_label("Scan or type a code")
    expect(field).to_be_focused()
    field.press_sequentially("no-such-code")
    field.press("Enter")
    expect(page.get_by_role("status").filter(has_text="no-such-code")).to_contain_text("is not known")
    number = re.search(r"([A-Z]-\d+);", rows.first.inner_text())
    wanted = re.search(r"0/(\d+)", rows.first.inner_text())
    assert number is not None
    assert wanted is not None
    for _piece in range(int(wanted[1])):
        field.press_sequentially(number[1])
        field.press("Enter")
        expect(page.get_by_role("status").filter(has_text="✓")).to_be_visible()
    expect(rows.first).to_contain_text(f"{wanted[1]}/{wanted[1]}")
    field.press_sequentially(number[1])
    field.press("Enter")
    expect(page.get_by_role("status").filter(has_text="are enough")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Book ")).click()
    toast(page, "kinds of parts are on")


def test_a_request_is_ordered_received_in_part_and_handed_over(page):
    tab(page, "Asked for").click()
    request = page.get_by_role("list", name="Requests").get_by_role("listitem").filter(has_text="2 × Safety contact")
    expect(request).to_contain_text("asked")
    request.get_by_role("button", name="Put on the order").click()
    expect(request).to_contain_text("ordered")
    tab(page, "Purchases").click()
    orders = page.request.get("/api/v1/supply/purchases").json()["rows"]
    [order] = [
        row
        for row in orders
        if row["state"] == "proposal" and any(line["part"] == "Safety contact" for line in row["lines"])
    ]
    page.get_by_role("link", name=order["number"]).click()
    page.get_by_role("button", name=re.compile("^Order")).click()
    toast(page, "is ordered")
    receive = page.get_by_role("form", name="Receive")
    receive.get_by_label("How many Safety contact come now").fill("1")
    receive.get_by_role("button", name=re.compile("^Put away")).click()
    toast(page, "received in part")
    receive.get_by_label("How many Safety contact come now").fill("20")
    receive.get_by_label("Price of one Safety contact now").fill("99.00")
    receive.get_by_role("button", name=re.compile("^Put away")).click()
    expect(receive).to_contain_text("came at")
    tab(page, "Asked for").click()
    expect(request).to_contain_text("arrived")
    request.get_by_role("button", name="Handed over").click()
    toast(page, "has it")
    expect(request).to_have_count(0)


def test_what_a_visit_on_hold_waits_for_comes_in_part_and_then_its_customer_is_promised_a_time(page):
    tab(page, "Asked for").click()
    request = page.get_by_role("list", name="Requests").get_by_role("listitem").filter(has_text="2 × Limit switch")
    expect(request).to_contain_text("ordered")
    visit = request.get_by_role("link").inner_text()
    orders = page.request.get("/api/v1/supply/purchases").json()["rows"]
    [order] = [row for row in orders if any(line["part"] == "Limit switch, double" for line in row["lines"])]
    tab(page, "Purchases").click()
    page.get_by_role("link", name=order["number"]).click()
    receive = page.get_by_role("form", name="Receive")
    for state in ("received in part", "received"):
        receive.get_by_label("How many Limit switch, double come now").fill("1")
        receive.get_by_role("button", name=re.compile("^Put away")).click()
        toast(page, state)
        tab(page, "Asked for").click()
        expect(request).to_contain_text("ordered" if state == "received in part" else "arrived")
        page.go_back()
    # The visit waits again, and the best time is proposed where somebody sees that its customer has to be called.
    page.goto("/outbox")
    call = page.get_by_role("region", name="To be called").get_by_role("listitem").filter(has_text="has come")
    expect(call).to_contain_text(f"2 × Limit switch, double for {visit} has come: offer a time")
    expect(call).to_contain_text("We can come")
    button = call.get_by_role("button", name=re.compile("^Promise "))
    words = button.inner_text().removeprefix("Promise ")
    button.click()
    toast(page, f"Promised {words}")
    expect(call).to_have_count(0)
    # What was promised is what the customer reads.
    written = page.get_by_role("table").get_by_role("row").filter(has_text=visit.split(" ")[0])
    expect(written.filter(has_text=words.split(" ")[-1].split("–")[0]).first).to_be_visible()


def test_a_defective_part_goes_back_and_is_credited(page):
    tab(page, "Returns").click()
    claims = page.get_by_role("list", name="Claims").get_by_role("listitem")
    expect(claims.first).to_be_visible()
    before = claims.count()
    aside = claims.filter(has_text="set aside").first
    name = aside.get_attribute("aria-label") or ""
    aside.get_by_role("button", name=re.compile("^Sent back to")).click()
    claim = page.get_by_role("listitem", name=name)
    expect(claim).to_contain_text("sent back")
    claim.get_by_label(re.compile("^Credit")).fill("120.50")
    claim.get_by_role("button", name="Settle it").click()
    toast(page, "credited")
    expect(claims).to_have_count(before - 1)
    page.get_by_role("button", name="Those that are settled").click()
    expect(page.get_by_role("listitem", name=name)).to_contain_text("120.50")


def test_what_is_lent_and_overdue_is_fetched_or_comes_back(page):
    tab(page, "Loans").click()
    loan = page.get_by_role("listitem", name=re.compile("^1 × Chain hoist"))
    expect(loan).to_contain_text("overdue")
    loan.get_by_role("button", name="Make a visit to fetch it").click()
    toast(page, "in the backlog")
    expect(loan.get_by_role("link")).to_be_visible()
    expect(loan.get_by_role("button", name="Make a visit to fetch it")).to_have_count(0)
    loan.get_by_role("button", name=re.compile("^Back at")).click()
    toast(page, "is back")
    expect(loan).to_have_count(0)


def test_a_count_is_blind_and_its_difference_is_booked_when_it_is_explained(page):
    levels = page.request.get("/api/v1/parts/cable-tie-100-mm/levels").json()
    [level] = [row for row in levels if row["place"] == "Kilnfield"]
    lies, shelf = level["figures"]["on_hand"], level["shelf"]
    tab(page, "Counts").click()
    form = page.get_by_role("form", name="Begin a count")
    form.get_by_label("Count", exact=True).select_option(label="Kilnfield")
    form.get_by_label("What of it").select_option("one shelf")
    form.get_by_label("Shelf").fill(shelf)
    form.get_by_role("button", name="Begin to count").click()
    table = page.get_by_role("table", name="To be counted")
    found = table.get_by_label("Cable tie, 100 mm found")
    expect(found).to_have_value("")
    assert not re.search(rf"\b{lies}\b", found.locator("xpath=ancestor::tr").inner_text().replace(shelf, ""))
    found.fill(str(lies + 3))
    found.press("Enter")
    expect(page.get_by_role("status").filter(has_text="1 of 1 counted")).to_be_visible()
    page.get_by_role("button", name=re.compile("^All is counted")).click()
    differences = page.get_by_role("table", name="Differences")
    expect(differences).to_contain_text("+3")
    book = page.get_by_role("button", name="Book the differences")
    expect(book).to_be_disabled()
    differences.get_by_role("textbox").fill("a bag lay behind the shelf")
    book.click()
    toast(page, "The books say what was found at Kilnfield")
    levels = page.request.get("/api/v1/parts/cable-tie-100-mm/levels").json()
    assert next(row for row in levels if row["place"] == "Kilnfield")["figures"]["on_hand"] == lies + 3


def test_a_large_difference_is_booked_by_somebody_else_than_who_counted(sign_in):
    page = sign_in(SECOND)
    page.goto("/stock/counts")
    page.get_by_role("link", name=re.compile("one shelf")).filter(has_not_text="Kilnfield").first.click()
    expect(page.get_by_text("Your yes is needed")).to_be_visible()
    differences = page.get_by_role("table", name="Differences")
    differences.get_by_role("textbox").first.fill("given to the workshop and not written down")
    page.get_by_role("button", name="Book the differences").click()
    toast(page, "The books say what was found at")
    expect(page.get_by_text(re.compile("booked by Milo Tarn"))).to_be_visible()


def test_a_part_is_found_with_where_it_lies(page):
    tab(page, "Parts").click()
    page.get_by_label("Search parts").fill("door roller")
    page.get_by_role("link", name="Door roller", exact=True).click()
    expect(page.get_by_role("heading", name="Door roller")).to_be_visible()
    expect(page.get_by_text("Van 1", exact=True).first).to_be_visible()
