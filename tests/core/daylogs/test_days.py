"""What a day came to, and what is asked about it: the same here and on the phone (days.test.ts)."""

import json
from dataclasses import asdict
from pathlib import Path

import pytest

from core.daylogs import DayFacts, Stretch, VisitOfDay, odd_entries, summary

CASES = json.loads((Path(__file__).parent / "days.json").read_text())


def facts_from(row):
    return DayFacts(
        **row | {
            "pauses": [Stretch(**pause) for pause in row["pauses"]],
            "visits": [VisitOfDay(**visit) for visit in row["visits"]],
        }
    )  # fmt: skip


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_a_day_comes_to_so_much_and_asks_so_much(case):
    facts = facts_from(case["facts"])
    assert asdict(summary(facts)) | {"open": list(summary(facts).open)} == case["summary"]
    odd = odd_entries(facts)
    assert [row.key for row in odd] == case["odd"]
    assert all(row.words.endswith("?") or "?" in row.words for row in odd)
