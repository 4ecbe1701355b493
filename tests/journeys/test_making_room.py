"""Work that can wait makes room for work that cannot: said on the call, done as it was said, undone in one step."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.board import lane, toast
from tests.journeys.conftest import DISPATCHER
from tests.journeys.test_intake import choose_ferries

TUESDAY = "2026-12-01"
# What keeps everybody who can rig busy the whole morning, though it could wait and anybody could do it.
FILLS_THE_MORNING = """async (day) => {
  const get = async (path) => (await fetch(path)).json();
  const token = (await get('/api/v1/session')).csrf_token;
  const post = async (path, body) => {
    const answer = await fetch(path, {
      method: 'POST', headers: {'content-type': 'application/json', 'X-CSRFToken': token}, body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(path + ' ' + await answer.text());
    return answer.json();
  };
  const heads = await get('/api/v1/board/lanes');
  const riggers = heads.filter((row) => (row.skills.Rigging ?? 0) >= 2);
  const site = (await get('/api/v1/sites/on-map')).find((row) => row.name === 'Ferry Terminal');
  const board = await get(`/api/v1/board?day=${day}`);
  const placed = [];
  for (const person of riggers) {
    const shift = board.lanes.find((row) => row.technician_id === person.technician_id).days[0].shift;
    const made = await post('/api/v1/appointments/book', {
      site_id: site.id, what_is_wrong: 'A look at everything', priority: 5,
      contact_phone: '+351 296 111 222', duration_seconds: 3 * 3600,
    });
    const visit = {id: made.visit_id, version: 1, number: made.order};
    await post(`/api/v1/visits/${visit.id}/place`,
      {version: visit.version, technician_id: person.technician_id, start: shift.start + 2700, because: 'to fill it'});
    placed.push([person.name, visit.number]);
  }
  return placed;
}"""


def on_tuesday(page: Page) -> None:
    page.goto(f"/board?day=%22{TUESDAY}%22")
    expect(page.get_by_role("button", name=re.compile("^Tue 1 Dec"))).to_be_visible()
    expect(page.locator("[data-lane] button[data-visit]").first).to_be_visible()


def test_work_that_can_wait_makes_room_as_it_was_said(sign_in):
    page = sign_in(DISPATCHER)
    on_hand = page.evaluate(FILLS_THE_MORNING, TUESDAY)
    assert len(on_hand) == 3
    page.get_by_role("link", name="Intake").click()
    choose_ferries(page)
    page.get_by_label("What is wrong, in the caller's words").fill("Counterweight has come off its rail")
    page.get_by_label("Length").fill("2h")
    page.get_by_text("Skills: none").click()
    page.get_by_label("Add a skill").select_option(label="Rigging")
    page.get_by_label("Level of Rigging").select_option("2")
    page.get_by_label("Priority").select_option("1")
    page.get_by_role("group", name="The caller's wish").get_by_role("button", name="Tue", exact=True).click()
    page.get_by_label("Not before").fill("1.12")
    page.keyboard.press("Tab")
    row = page.locator("label", has_text="Other work moves; it is placed at once.").first
    expect(row).to_contain_text("Tue 1 Dec")
    expect(row).not_to_contain_text("best")
    # Windows that move nothing come before those that move something.
    above = page.locator("label", has=page.get_by_role("radio", name=re.compile(r"^Tue 1 Dec"))).all_inner_texts()
    moving = ["Other work moves" in text for text in above]
    assert moving == sorted(moving)
    said = re.search(r"Moves (W-\d+) .* to ([A-Z]\w+ [A-Z]\w+), (\d\d:\d\d)", row.inner_text())
    assert said is not None, row.inner_text()
    moved, to, start = said.groups()
    was = next(name for name, number in on_hand if number == moved)
    row.get_by_role("radio").check()
    page.keyboard.press("Control+Enter")
    toast(page, "W-")

    on_tuesday(page)
    strip_out = page.locator("[data-lane] button[aria-label*='Counterweight has come off its rail, Ferry Terminal']")
    expect(strip_out).to_have_count(1)
    expect(lane(page, to).locator(f"button[aria-label^='{moved}'][aria-label*='. {start} to ']")).to_have_count(1)
    page.keyboard.press("Control+z")
    toast(page, "changes made in one step")
    expect(lane(page, was).locator(f"button[aria-label^='{moved}']")).to_have_count(1)
    expect(strip_out).to_have_count(0)
