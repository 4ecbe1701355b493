"""What the phone shows after what was recorded on it is what the server makes of it.

The phone's own tests read the same cases (frontend/tests/field/report-alike.test.ts).
"""

import json
from pathlib import Path

import pytest

from apps.orders.models import WorkOrder
from tests.apps.conftest import at
from tests.apps.field.test_deeds import Recorder
from tests.apps.reports.test_reports import QUESTIONS

CASES = json.loads((Path(__file__).parent / "deeds.json").read_text())
BEGINS = at(9)


def reduced(report):
    """What the cases compare, with times in seconds from the beginning."""

    def since(moment):
        return None if moment is None else moment - BEGINS

    said, took = report["acceptance"], report["entries"]
    return {
        "used": sorted(
            [row["id"], row["name"], row["quantity"], row["elsewhere"], since(row["at"])] for row in took["used"]
        ),
        "removed": [[row["id"], row["name"], row["what"], row["because"], since(row["at"])] for row in took["removed"]],
        "charges": [[row["id"], row["words"], row["quantity"], since(row["at"])] for row in took["charges"]],
        "mileages": [[row["metres"], since(row["at"])] for row in took["mileages"]],
        "nothing_more": took["nothing_more"],
        "tasks": [[row["words"], since(row["at"])] for row in report["tasks"]],
        "answers": sorted([row["key"], row["value"], since(row["at"])] for row in report["answers"]),
        "notes": sorted([row["reader"], row["text"], since(row["at"])] for row in report["notes"]),
        "pictures": [
            [row["id"], row["caption"], row["pair"], row["original"], since(row["at"])] for row in report["pictures"]
        ],
        "acceptance": said and [said["ended"], said["name"], said["rating"], said["words"], since(said["at"])],
        "looked": report["looked"],
    }


@pytest.mark.parametrize("case", CASES, ids=[case["name"] for case in CASES])
def test_the_server_makes_of_it_what_the_phone_shows(world, technician, case):
    visit = world.placed(9, state="on_site")
    work = {"tasks": ["Grease the rails", "Test ride"], "questions": QUESTIONS}
    WorkOrder.objects.filter(pk=visit.order_id).update(work=work)
    phone = Recorder(technician)
    deeds = [phone.deed(row["kind"], visit, row["body"], when=BEGINS + row["at"]) for row in case["deeds"]]
    assert phone.outcomes(*deeds) == ["applied"] * len(deeds)
    found = reduced(technician.get(f"/field/visits/{visit.pk}").json()["report"])
    assert {name: found[name] for name in case["report"]} == case["report"]
