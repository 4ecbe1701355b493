"""What a visit took: parts from the van and from elsewhere, times, charges; recorded on the phone, kept once."""

import uuid

import pytest

from apps.reports.commands import planned_line
from apps.reports.models import Charge, RemovedPart, SaidTime, UsedPart
from apps.stock import commands as stock
from apps.stock.models import Fitted, Movement, Part, Piece, Supplier
from apps.supply.models import Claim, PartRequest
from core.stock import Move, MoveReason, PlaceKind
from foundation import clock
from foundation.models import AuditEntry
from foundation.moments import to_datetime
from tests.apps.conftest import at, lies, on_vans
from tests.apps.field.test_deeds import Recorder

LINE = "01936f2e-0000-7000-8000-00000000b001"


@pytest.fixture
def recorder(technician):
    return Recorder(technician)


@pytest.fixture
def visit(world):
    return world.placed(9, state="on_site", takes={"door-roller": 2}, arrived_at=to_datetime(at(9)))


def entries(api, visit):
    return api.get(f"/reports/of-visit/{visit.pk}").json()["entries"]


def missing(api, visit, kind):
    rows = api.get(f"/reports/of-visit/{visit.pk}").json()["standings"]
    return next(row["missing"] for row in rows if row["kind"] == kind)


def used(recorder, visit, quantity, code="door-roller", line=LINE, **more):
    return recorder.deed("part", visit, {"id": line, "code": code, "quantity": quantity, **more})


def on_van(world, code="door-roller"):
    return on_vans()[world.ines.pk][code]


def test_a_part_used_leaves_the_van_at_once_and_only_once(world, visit, recorder, dispatcher):
    lies(world.ines, "door-roller", 5)
    assert missing(dispatcher, visit, "parts") == ["Door roller"]
    deed = used(recorder, visit, 2)
    assert recorder.outcomes(deed, deed) == ["applied", "applied"]
    assert on_van(world) == 3
    assert missing(dispatcher, visit, "parts") == []
    row = entries(dispatcher, visit)["used"][0]
    assert (row["name"], row["quantity"], row["booked"], row["source"]) == (
        "Door roller", 2, True, "Van of Ines Falk",
    )  # fmt: skip


def test_said_again_the_last_stands_and_the_books_follow(world, visit, recorder, dispatcher):
    lies(world.ines, "door-roller", 5)
    recorder.send(used(recorder, visit, 2), used(recorder, visit, 4))
    assert on_van(world) == 1
    recorder.send(used(recorder, visit, 0))
    assert on_van(world) == 5
    assert [row["quantity"] for row in entries(dispatcher, visit)["used"]] == [0]
    recorder.send(used(recorder, visit, 1), recorder.deed("part out", visit, {"id": LINE}))
    assert on_van(world) == 5
    assert entries(dispatcher, visit)["used"] == []


def test_what_the_van_did_not_have_on_the_books_was_used_all_the_same(world, visit, recorder):
    lies(world.ines, "door-roller", 1)
    assert recorder.outcomes(used(recorder, visit, 2)) == ["applied"]
    assert on_van(world) == 0
    said = AuditEntry.objects.filter(entity="stock place", action="short").latest("id")
    assert said.sentence == "used 1 × Door roller that Van of Ines Falk did not have on the books: count it"


def test_from_elsewhere_the_van_stays_as_it_is(world, visit, recorder, dispatcher):
    lies(world.ines, "door-roller", 5)
    depot = lies(world.ines.depot, "door-roller", 3)
    recorder.send(used(recorder, visit, 1, elsewhere="bought at the hardware shop"))
    recorder.send(used(recorder, visit, 2, line=str(uuid.uuid4()), place_id=depot.pk))
    assert on_van(world) == 5
    assert depot.levels.get().quantity == 1
    assert [row["source"] for row in entries(dispatcher, visit)["used"]] == [
        "bought at the hardware shop", depot.name,
    ]  # fmt: skip


def test_pieces_with_numbers_are_named_and_a_wrong_number_does_not_undo_what_was_done(world, visit, recorder):
    Part.objects.filter(code="door-roller").update(tracking="serial number")
    van = stock.place_of_van(world.ines)
    source = stock.nobodys(PlaceKind.DIFFERENCE)
    one = Move(
        part=Part.objects.get(code="door-roller").pk, quantity=2, source=source.pk, target=van.pk,
        reason=MoveReason.COUNT, serials=("A1", "A2"),
    )  # fmt: skip
    stock.move(actor=world.accounts["dispatcher"], now=clock.now(), moves=[one])
    assert recorder.outcomes(used(recorder, visit, 1, serials=["A2"])) == ["applied"]
    assert Piece.objects.get(serial="A2").place.site == world.site
    assert recorder.outcomes(used(recorder, visit, 1, line=str(uuid.uuid4()), serials=["Z9"])) == ["applied"]
    said = AuditEntry.objects.filter(entity="stock place", action="short").latest("id")
    assert "Z9 is not known" in said.sentence
    assert recorder.outcomes(used(recorder, visit, 3, line=str(uuid.uuid4()), serials=["A1"])) == ["waiting"]


def test_what_nobody_spoke_of_counts_as_used_when_the_work_ends(world, visit, recorder, dispatcher):
    lies(world.ines, "door-roller", 5)
    recorder.send(recorder.step(visit, "finish", saw="on_site", note="done", when=at(10)))
    assert on_van(world) == 3
    row = entries(dispatcher, visit)["used"][0]
    assert (row["name"], row["quantity"], row["at"]) == ("Door roller", 2, at(10))


def test_what_was_not_needed_stays_on_the_van_when_the_work_ends(world, visit, recorder):
    lies(world.ines, "door-roller", 5)
    recorder.send(used(recorder, visit, 0), recorder.step(visit, "finish", saw="on_site", note="done", when=at(10)))
    assert on_van(world) == 5
    assert not Movement.objects.filter(visit=visit).exists()


def test_a_defective_part_that_came_out_becomes_a_claim(world, visit, recorder, dispatcher):
    supplier = Supplier.objects.create(name="Norrvik")
    Part.objects.filter(code="door-roller").update(supplier=supplier)
    body = {"id": str(uuid.uuid4()), "code": "door-roller", "what": "defective", "because": "worn flat"}
    assert recorder.outcomes(recorder.deed("removed part", visit, body)) == ["applied"]
    assert recorder.outcomes(recorder.deed("removed part", visit, body)) == ["applied"]
    assert RemovedPart.objects.count() == 1
    assert Movement.objects.filter(visit=visit, reason="defect").count() == 1
    assert Claim.objects.get().supplier == supplier
    row = entries(dispatcher, visit)["removed"][0]
    assert (row["name"], row["what"], row["because"]) == ("Door roller", "defective", "worn flat")


def test_what_is_none_of_ours_is_named_in_words(visit, recorder, dispatcher):
    body = {"id": str(uuid.uuid4()), "words": "an old lamp", "what": "thrown away"}
    assert recorder.outcomes(recorder.deed("removed part", visit, body)) == ["applied"]
    assert entries(dispatcher, visit)["removed"][0]["name"] == "an old lamp"
    nameless = recorder.deed("removed part", visit, {"id": str(uuid.uuid4()), "what": "kept"})
    assert recorder.outcomes(nameless) == ["waiting"]


def test_a_part_is_asked_for_from_the_visit(visit, recorder, technician):
    body = {"code": "door-roller", "quantity": 2, "needed_by": at(15), "must": False, "substitute_allowed": True}
    deed = recorder.deed("part asked", visit, body)
    assert recorder.outcomes(deed, deed) == ["applied", "applied"]
    row = PartRequest.objects.get()
    assert (row.quantity, row.must, row.substitute_allowed, row.visit) == (2, False, True, visit)
    shown = technician.get(f"/field/visits/{visit.pk}").json()["asked"]
    assert [(one["part"], one["state"]) for one in shown] == [("Door roller", "asked")]


def test_times_come_from_the_stamps_until_somebody_says_why_not(world, visit, recorder, dispatcher):
    recorder.send(
        recorder.step(visit, "hold", saw="on_site", note="waits for the key", when=at(9, 30)),
        recorder.step(visit, "resume", saw="on_hold", when=at(9, 45)),
    )
    row = entries(dispatcher, visit)["presences"][0]
    assert (row["technician_id"], row["held"]) == (world.ines.pk, [{"since": at(9, 30), "until": at(9, 45)}])
    said = {"technician_id": world.ines.pk, "sort": "work", "minutes": 95}
    assert recorder.outcomes(recorder.deed("time", visit, said)) == ["waiting"]  # no reason
    other = world.placed(13, state="on_site", arrived_at=to_datetime(at(13)))
    assert recorder.outcomes(recorder.deed("time", other, said | {"reason": "stamped late"})) == ["applied"]
    assert missing(dispatcher, other, "time") == []
    assert [(one["minutes"], one["reason"], one["by"]) for one in entries(dispatcher, other)["times"]] == [
        (95, "stamped late", "Ines Falk")
    ]
    recorder.send(recorder.deed("time", other, said | {"minutes": None}))
    assert not SaidTime.objects.exists()


def test_nobody_says_the_time_of_who_was_not_there(world, visit, recorder):
    said = {"technician_id": world.ivor.pk, "sort": "work", "minutes": 95, "reason": "helped"}
    assert recorder.outcomes(recorder.deed("time", visit, said)) == ["waiting"]


def test_charges_and_kilometres_are_kept_and_taken_away(visit, recorder, dispatcher):
    line = str(uuid.uuid4())
    recorder.send(
        recorder.deed("charge", visit, {"id": line, "words": "Parking", "quantity": 1500}),
        recorder.deed("mileage", visit, {"metres": 12_400}),
    )
    found = entries(dispatcher, visit)
    assert [(row["words"], row["quantity"]) for row in found["charges"]] == [("Parking", 1500)]
    assert [row["metres"] for row in found["mileages"]] == [12_400]
    recorder.send(recorder.deed("charge out", visit, {"id": line}), recorder.deed("mileage", visit, {"metres": None}))
    assert not Charge.objects.exists()
    assert missing(dispatcher, visit, "charges") == ["Nothing is said of charges"]
    recorder.send(recorder.deed("nothing more", visit, {"of": "charges"}))
    assert missing(dispatcher, visit, "charges") == []


def test_a_charge_of_nothing_and_one_that_is_on_no_list_wait(visit, recorder):
    nothing = recorder.deed("charge", visit, {"id": str(uuid.uuid4()), "words": " "})
    assert recorder.outcomes(nothing) == ["waiting"]


def test_a_line_of_another_visit_is_never_moved(world, visit, recorder):
    other = world.placed(13, state="on_site")
    lies(world.ines, "door-roller", 5)
    recorder.send(used(recorder, visit, 2))
    assert recorder.outcomes(used(recorder, other, 1)) == ["waiting"]
    assert UsedPart.objects.get().visit == visit


def test_lists_to_look_things_up_in_are_what_is_taken_along(world, technician):
    lies(world.ines, "door-roller", 5)
    technician.post("/field/phones", {"id": LINE, "name": "Chrome on Android"})
    news = technician.post("/field/along", {"phone": LINE, "known": {}}).json()["news"]
    taken = {row["name"]: row["content"] for row in news}
    for name in ("parts", "van", "items"):
        assert taken[name] == technician.get(f"/field/{name}").json()
    assert [(row["code"], row["quantity"]) for row in taken["van"]] == [("door-roller", 5)]


def test_who_has_a_part_near_is_asked_for_a_visit(world, visit, technician):
    lies(world.ivor, "door-roller", 3)
    found = technician.get("/field/parts/door-roller/near", visit_id=visit.pk).json()
    assert [(row["technician"], row["free"]) for row in found] == [(world.ivor.name, 3)]


def test_the_end_of_the_work_and_a_late_tick_speak_of_one_line(world, visit, recorder, dispatcher):
    """Ticked on a phone that did not know yet what the end of the work had booked."""
    lies(world.ines, "door-roller", 5)
    recorder.send(recorder.step(visit, "finish", saw="on_site", note="done", when=at(9, 50)))
    line = str(planned_line(visit.pk, "door-roller"))
    assert recorder.outcomes(used(recorder, visit, 1, line=line)) == ["applied"]
    assert on_van(world) == 4
    assert [row["quantity"] for row in entries(dispatcher, visit)["used"]] == [1]


def test_the_name_of_a_planned_line_is_the_phone_s():
    assert str(planned_line(7, "door-roller")) == "17b357b6-973b-5a5c-b2b8-594cd6f8d9b4"


def test_one_part_is_corrected_and_the_others_of_the_same_booking_stay(world, recorder, dispatcher):
    made = world.placed(
        9, state="on_site", takes={"door-roller": 2, "car-lamp": 1, "light-curtain": 1}, arrived_at=to_datetime(at(9))
    )
    lies(world.ines, "door-roller", 5)
    lies(world.ines, "car-lamp", 3)
    recorder.send(recorder.step(made, "finish", saw="on_site", note="done", when=at(9, 50)))
    booked = {row["code"]: row["booked"] for row in entries(dispatcher, made)["used"]}
    assert booked == {"door-roller": True, "car-lamp": True, "light-curtain": False}
    recorder.send(used(recorder, made, 0, line=str(planned_line(made.pk, "door-roller"))))
    assert (on_van(world), on_van(world, "car-lamp")) == (5, 2)
    # Said again, nothing comes back a second time.
    recorder.send(used(recorder, made, 0, line=str(planned_line(made.pk, "door-roller"))))
    assert (on_van(world), on_van(world, "car-lamp")) == (5, 2)


def test_what_was_not_used_after_all_leaves_what_was_built_in_before(world, visit, recorder):
    lies(world.ines, "door-roller", 5)
    before = Fitted.objects.create(
        part=Part.objects.get(code="door-roller"), quantity=2, site=world.site, since=to_datetime(at(1))
    )
    recorder.send(used(recorder, visit, 2), used(recorder, visit, 1))
    before.refresh_from_db()
    assert before.removed_at is None
    assert [row.quantity for row in Fitted.objects.exclude(pk=before.pk)] == [1]
    recorder.send(used(recorder, visit, 0))
    assert list(Fitted.objects.all()) == [before]
