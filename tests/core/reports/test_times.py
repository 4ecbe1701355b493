"""Travel and work made from stamps: the same here and on the phone (frontend/tests/field/times.test.ts)."""

import json
from pathlib import Path

import pytest

from core.reports import Presence, minutes_of

CASES = json.loads((Path(__file__).parent / "times.json").read_text())


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_minutes_are_made_of_the_stamps(case):
    stamps = case["presence"]
    presence = Presence(
        departed=stamps["departed"], arrived=stamps["arrived"], finished=stamps["finished"],
        held=[(row["since"], row["until"]) for row in stamps["held"]],
    )  # fmt: skip
    assert (minutes_of(presence, "travel"), minutes_of(presence, "work")) == (case["travel"], case["work"])
