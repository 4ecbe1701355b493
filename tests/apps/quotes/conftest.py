"""A company with a short price list, and a quote with two ways to do it."""

import pytest

FULL = {"name": "Full rate", "category": "standard", "rates": [{"percent": "20", "valid_from": "2026-01-01"}]}
ITEMS = (
    {"kind": "labour", "wording": "Hour of a fitter", "unit": "HUR", "price": 5000, "cost": 3000},
    {"kind": "part", "wording": "Door drive", "unit": "C62", "price": 40000, "cost": 26000},
    {"kind": "part", "wording": "Door roller", "unit": "C62", "price": 2000, "cost": 900},
)
# 1x1 pixel.
PNG = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="


@pytest.fixture
def prices(as_role):
    manager = as_role("manager")
    assert manager.post("/pricing/tax-codes", FULL).status_code == 201
    for item in ITEMS:
        made = manager.post("/pricing/items", {**item, "tax": "full-rate"})
        assert made.status_code == 201, made.json()
    return manager


@pytest.fixture
def desk(as_role, prices):
    """A dispatcher, who writes quotes."""
    return as_role("dispatcher")


def line(key, item, quantity=1, **more):
    return {"key": key, "item": item, "quantity": quantity, **more}


REPAIR = {
    "key": "a", "name": "Repair", "duration_seconds": 5400, "crew": 1,
    "lines": [line("l1", "hour-of-a-fitter", "1.5"), line("l2", "door-roller", 4, optional=True)],
}  # fmt: skip
REPLACE = {
    "key": "b", "name": "Replace the drive", "summary": "Five years of warranty.",
    "lines": [line("l1", "hour-of-a-fitter", 3), line("l2", "door-drive")],
}  # fmt: skip


def change(api, quote, **changes):
    """The quote with some of it changed, by whoever's hands these are."""
    content = {
        "scope": "The door jams.", "introduction": "Hello", "closing": "Bye", "terms": "Fourteen days.",
        "technician_note": "Key at the porter's.", "options": [REPAIR, REPLACE], **changes.pop("content", {}),
    }  # fmt: skip
    body = {
        "version": quote["version"], "title": "Door drive", "site_id": quote["site_whole"]["id"],
        "contact_name": "Marta Vale", "contact_email": "marta@seagate.example", "content": content, **changes,
    }  # fmt: skip
    return api.put(f"/quotes/{quote['id']}", body)


@pytest.fixture
def quote(desk, world):
    """A draft of two ways to do it: 90.00 with tax (and rollers for 96.00 more), or 660.00."""
    made = desk.post("/quotes", {"site_id": world.site.pk})
    assert made.status_code == 201, made.json()
    changed = change(desk, made.json())
    assert changed.status_code == 200, changed.json()
    return changed.json()


def send(api, quote, how="e-mail", **more):
    return api.post(f"/quotes/{quote['id']}/send", {"version": quote["version"], "how": how, **more})


@pytest.fixture
def sent(desk, quote):
    answer = send(desk, quote)
    assert answer.status_code == 200, answer.json()
    return answer.json()


def address(quote, number=None):
    """Where the customer reads it."""
    versions = {row["number"]: row for row in quote["versions"]}
    return "/public/quotes/" + versions[number or max(versions)]["path"].removeprefix("/quote/")


def approval(shown, option="a", ticked=(), **more):
    """What the page sends when it is signed: the total as it was shown."""
    gross = {("a", ()): 9_000, ("a", ("l2",)): 18_600, ("b", ()): 66_000}[option, tuple(ticked)]
    return {
        "option": option, "ticked": list(ticked), "name": "Marta Vale", "digest": shown["digest"], "gross": gross,
        "accepts_terms": True, **more,
    }  # fmt: skip
