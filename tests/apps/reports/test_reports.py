"""The report of a visit: recorded on the phone, read at the office; each piece once, and none lost."""

import io
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import TestCase
from PIL import Image

from apps.orders.models import WorkOrder
from apps.people.models import Account
from apps.reports.models import DoneTask, FormAnswer, Picture, VisitNote
from foundation import parts
from foundation.models import StoredFile
from foundation.moments import to_datetime
from tests.apps.conftest import at
from tests.apps.field.test_deeds import Recorder

QUESTIONS = [
    {"key": "gap", "label": "Door gap", "kind": "number", "unit": "mm", "least": 2, "most": 8, "required": "to close"},
    {"key": "rust", "label": "Rust", "kind": "yes_no"},
    {"key": "where", "label": "Where is the rust?", "kind": "text", "shown_if": ["rust", True]},
    {"key": "plate", "label": "Photo of the plate", "kind": "photo"},
]


@pytest.fixture
def recorder(technician):
    return Recorder(technician)


@pytest.fixture
def visit(world):
    made = world.placed(9, state="on_site")
    WorkOrder.objects.filter(pk=made.order_id).update(
        work={"tasks": ["Grease the rails", "Test ride"], "questions": QUESTIONS}, asset=world.asset
    )
    return made


def report(api, visit):
    return api.get(f"/reports/of-visit/{visit.pk}").json()


def missing(found):
    return {row["kind"]: row["missing"] for row in found["standings"] if not row["done"]}


def test_tasks_are_ticked_once_with_their_time_and_may_be_taken_back(visit, recorder, dispatcher):
    tick = recorder.deed("task", visit, {"words": "Grease the rails", "done": True}, when=at(9, 12))
    assert recorder.outcomes(tick, tick) == ["applied", "applied"]
    again = recorder.deed("task", visit, {"words": "Grease the rails", "done": True}, when=at(9, 40))
    recorder.outcomes(again)
    found = report(dispatcher, visit)
    assert found["tasks"] == [
        {"words": "Grease the rails", "at": at(9, 12), "by": "Ines Falk"},
        {"words": "Test ride", "at": None, "by": ""},
    ]
    assert missing(found)["tasks"] == ["Test ride"]
    recorder.outcomes(recorder.deed("task", visit, {"words": "Grease the rails", "done": False}))
    assert report(dispatcher, visit)["tasks"][0]["at"] is None


def test_a_task_that_the_office_has_taken_out_waits_for_a_person(visit, recorder):
    assert recorder.outcomes(recorder.deed("task", visit, {"words": "Weld it", "done": True})) == ["waiting"]


def test_answers_are_checked_one_by_one_and_the_last_stands(visit, recorder, dispatcher):
    def answer(key, value, **more):
        return recorder.deed("answer", visit, {"key": key, "value": value, **more})

    assert recorder.outcomes(answer("gap", 4), answer("gap", "5,5"), answer("rust", True)) == ["applied"] * 3
    assert recorder.outcomes(answer("where", "at the sill")) == ["applied"]
    given = {row["key"]: row["value"] for row in report(dispatcher, visit)["answers"]}
    assert given == {"gap": 5.5, "rust": True, "where": "at the sill"}
    recorder.outcomes(answer("where", None))
    assert "where" not in {row["key"] for row in report(dispatcher, visit)["answers"]}


def test_a_number_out_of_bounds_is_taken_from_whoever_is_sure(visit, recorder, dispatcher):
    sure = recorder.deed("answer", visit, {"key": "gap", "value": 11, "sure": True})
    assert recorder.outcomes(sure) == ["applied"]
    unsure = recorder.deed("answer", visit, {"key": "gap", "value": 12})
    [told] = recorder.send(unsure)["answers"]
    assert (told["outcome"], told["sentence"]) == ("waiting", "Door gap: At most 8 mm.")
    assert report(dispatcher, visit)["answers"][0]["value"] == 11


def test_what_must_be_answered_is_named_until_it_is(visit, recorder, dispatcher):
    assert missing(report(dispatcher, visit))["form"] == ["Door gap"]
    recorder.outcomes(recorder.deed("answer", visit, {"key": "gap", "value": 4}))
    assert "form" not in missing(report(dispatcher, visit))


def test_notes_stay_where_they_were_written(visit, recorder, dispatcher):
    for reader, text in (("self", "bring the long key"), ("office", "gate is broken"), ("customer", "Runs again.")):
        assert recorder.outcomes(recorder.deed("note", visit, {"reader": reader, "text": text})) == ["applied"]
    notes = {row["reader"]: row["text"] for row in report(dispatcher, visit)["notes"]}
    assert notes == {"office": "gate is broken", "customer": "Runs again."}
    own = recorder.api.get(f"/field/visits/{visit.pk}").json()["report"]["notes"]
    assert {row["reader"] for row in own} == {"self", "office", "customer"}


def jpeg(side=320):
    into = io.BytesIO()
    Image.effect_noise((side, side), 90).convert("RGB").save(into, "JPEG", quality=80)
    return into.getvalue()


def told_of(recorder, visit, content, **more):
    name = str(uuid.uuid4())
    body = {"id": name, "size": len(content), "media_type": "image/jpeg", **more}
    assert recorder.outcomes(recorder.deed("picture", visit, body, when=at(9, 30))) == ["applied"]
    return name


def send_piece(recorder, name, at_byte, content):
    piece = SimpleUploadedFile("piece", content)
    with TestCase.captureOnCommitCallbacks(execute=True):
        return recorder.api.client.post(f"/api/v1/field/pictures/{name}", {"at": at_byte, "file": piece})


def test_a_picture_comes_in_pieces_in_any_number_of_tries_and_is_there_once(visit, recorder, dispatcher):
    content = jpeg()
    name = told_of(recorder, visit, content, caption="The sill", pair="before")
    first, second = content[:9000], content[9000:]
    assert dispatcher.get(f"/reports/pictures/{name}").status_code == 404
    assert send_piece(recorder, name, 9000, second).json()["current_version"] == 0
    for _ in range(2):
        assert send_piece(recorder, name, 0, first).json() == {"length": 9000}
    for _ in range(2):
        assert send_piece(recorder, name, 9000, second).json() == {"length": len(content)}
    [shown] = report(dispatcher, visit)["pictures"]
    assert (shown["caption"], shown["pair"], shown["here"], shown["at"]) == ("The sill", "before", True, at(9, 30))
    assert b"".join(dispatcher.get(f"/reports/pictures/{name}").streaming_content) == content
    assert StoredFile.objects.filter(record="visit", record_id=visit.pk).count() == 1


def test_what_is_no_picture_is_not_taken_and_can_be_sent_anew(visit, recorder, dispatcher):
    content = jpeg()
    name = told_of(recorder, visit, content)
    spoiled = b"x" * len(content)
    assert send_piece(recorder, name, 0, spoiled).status_code == 422
    assert not report(dispatcher, visit)["pictures"][0]["here"]
    assert send_piece(recorder, name, 0, content).json() == {"length": len(content)}
    assert report(dispatcher, visit)["pictures"][0]["here"]


def test_nobody_sends_to_anothers_picture_or_more_than_was_told(visit, recorder, world):
    content = jpeg(64)
    name = told_of(recorder, visit, content)
    assert send_piece(recorder, name, 0, content + b"more").status_code == 422
    Picture.objects.update(technician=world.ivor)
    assert send_piece(recorder, name, 0, content).status_code == 404
    assert recorder.api.get(f"/field/pictures/{name}").status_code == 404


def test_a_photo_answers_a_question_and_one_that_was_left_out_is_gone(visit, recorder, dispatcher):
    name = told_of(recorder, visit, jpeg(64), question="plate")
    assert recorder.outcomes(recorder.deed("answer", visit, {"key": "plate", "value": name})) == ["applied"]
    other = told_of(recorder, visit, jpeg(64))
    recorder.outcomes(recorder.deed("picture out", visit, {"id": other}))
    assert [row["id"] for row in report(dispatcher, visit)["pictures"]] == [name]
    stranger = recorder.deed("answer", visit, {"key": "plate", "value": str(uuid.uuid4())})
    assert recorder.outcomes(stranger) == ["waiting"]


def test_a_photo_stays_as_it_was_when_it_is_drawn_on(visit, recorder, dispatcher):
    photo = told_of(recorder, visit, jpeg(64))
    drawn = told_of(recorder, visit, jpeg(64), original=photo)
    pictures = {row["id"]: row["original"] for row in report(dispatcher, visit)["pictures"]}
    assert pictures == {photo: None, drawn: photo}
    body = {"id": str(uuid.uuid4()), "size": 9, "media_type": "image/jpeg", "original": str(uuid.uuid4())}
    assert recorder.outcomes(recorder.deed("picture", visit, body)) == ["waiting"]


def test_the_customer_signs_and_what_they_saw_is_kept(visit, recorder, dispatcher):
    signature = told_of(recorder, visit, jpeg(64), kind="signature")
    body = {"ended": "signed", "name": "Jonas Radley", "rating": 5, "signature": signature, "shown": ["Test ride"]}
    assert recorder.outcomes(recorder.deed("acceptance", visit, body, when=at(9, 50))) == ["applied"]
    found = report(dispatcher, visit)["acceptance"]
    assert found == {
        "ended": "signed", "name": "Jonas Radley", "rating": 5, "words": "", "signature": signature, "at": at(9, 50),
        "by": "Ines Falk",
    }  # fmt: skip


@pytest.mark.parametrize(
    ("body", "words"),
    [
        ({"ended": "signed"}, "Who signed? Write the name down."),
        ({"ended": "absent"}, "Say why nobody signed."),
        ({"ended": "signed", "name": "J", "rating": 9}, "A rating is 1 to 5."),
    ],
)
def test_an_acceptance_that_says_nothing_is_refused(visit, recorder, body, words):
    [told] = recorder.send(recorder.deed("acceptance", visit, body))["answers"]
    assert (told["outcome"], told["sentence"]) == ("refused", words)


def test_what_is_recorded_at_anothers_visit_waits(world, recorder):
    other = world.placed(9, technician=world.ivor, state="on_site")
    assert recorder.outcomes(recorder.deed("note", other, {"reader": "office", "text": "x"})) == ["waiting"]


def test_a_report_that_was_reviewed_is_closed(visit, recorder):
    WorkOrder.objects.update(state="reviewed")
    [told] = recorder.send(recorder.deed("note", visit, {"reader": "office", "text": "late"}))["answers"]
    assert (told["outcome"], told["sentence"]) == ("waiting", "The order is reviewed: its report is closed.")


def test_the_phone_knows_what_it_has_told_and_the_order_shows_all_its_reports(visit, recorder, dispatcher):
    look = recorder.deed("look", visit, {})
    assert recorder.outcomes(look) == ["applied"]
    shown = recorder.api.get(f"/field/visits/{visit.pk}").json()
    assert shown["known"] == [look["id"]]
    assert shown["report"]["looked"]
    [found] = dispatcher.get(f"/reports/of-order/{visit.order_id}").json()
    assert found == report(dispatcher, visit)


def test_a_job_type_composes_its_steps(world, as_role):
    office = as_role("administrator")
    job = office.get("/catalogue/job-types").json()[0]
    body = {name: job[name] for name in ("name", "priority", "needs", "tasks", "questions")} | {
        "version": job["version"]
    }
    strict = [{"kind": "depart"}, {"kind": "arrive"}, {"kind": "photos", "must": True}, {"kind": "finish"}]
    kept = office.put(f"/catalogue/job-types/{job['id']}", body | {"steps": strict}).json()
    assert [row["must"] for row in kept["steps"]] == [True] * 4
    wrong = office.put(f"/catalogue/job-types/{job['id']}", body | {"steps": strict[:2], "version": job["version"] + 1})
    assert (wrong.status_code, wrong.json()["field"]) == (422, "steps")


def finished(world, at_, asset, **fields):
    when = to_datetime(at_)
    made = world.visit(technician=world.ines, state="done", start=when, finished_at=when, **fields)
    WorkOrder.objects.filter(pk=made.order_id).update(
        work={"tasks": ["Grease the rails", "Test ride"], "questions": QUESTIONS}, asset=asset
    )
    return made


def test_the_phone_the_board_and_the_office_read_the_same_lines_of_what_happened(world, visit, recorder, dispatcher):
    for number, gap in enumerate((3, 4.2, 5.3, 6.4)):
        past = finished(world, at(6, number), world.asset, outcome=f"Set to {gap}.")
        about = {"visit": past, "technician": world.ines, "at": to_datetime(at(6, number))}
        DoneTask.objects.create(**about, words="Grease the rails")
        FormAnswer.objects.create(**about, asset=world.asset, key="gap", label="Door gap", value=gap)
    VisitNote.objects.create(**about, reader="office", text="Gate is broken")
    VisitNote.objects.create(**about, reader="self", text="secret")
    lines = dispatcher.get("/reports/lately", visit_id=visit.pk).json()
    assert [row["words"] for row in lines] == [
        "Door gap goes from 3 to 6.4 mm over 4 readings; at most 8 mm is right",
        "Left open last time: Test ride",
        "Ines Falk noted: Gate is broken",
        "Noisy door, Ines Falk: Set to 6.4.",
        "Noisy door, Ines Falk: Set to 5.3.",
    ]
    assert {row["order_id"] for row in lines[:4]} == {past.order_id}
    assert recorder.api.get(f"/field/visits/{visit.pk}").json()["lately"] == lines
    assert dispatcher.get("/reports/lately", asset_id=world.asset.pk).json() == lines


def test_where_nothing_happened_there_are_no_lines(visit, dispatcher):
    assert dispatcher.get("/reports/lately", visit_id=visit.pk).json() == []
    assert dispatcher.get("/reports/lately").json() == []
    assert dispatcher.get("/reports/lately", visit_id=10**9).status_code == 404


def test_the_same_piece_sent_by_two_pages_at_once_is_taken_in_once(visit, recorder, dispatcher, monkeypatch):
    """They are taken in one after the other: the row of the picture is locked before its file is looked at."""
    content = jpeg(64)
    name = told_of(recorder, visit, content)
    locked = []
    add = parts.add

    def watched(**given):
        with connection.cursor() as cursor:
            cursor.execute("SELECT mode FROM pg_locks WHERE pid = pg_backend_pid() AND mode = 'RowShareLock'")
            locked.append(cursor.fetchone() is not None)
        return add(**given)

    monkeypatch.setattr("apps.reports.commands.pictures.parts.add", watched)
    for _ in range(2):
        assert send_piece(recorder, name, 0, content).json() == {"length": len(content)}
    assert locked == [True]
    assert b"".join(dispatcher.get(f"/reports/pictures/{name}").streaming_content) == content


def test_a_note_for_oneself_is_not_read_at_the_office_even_while_it_waits(world, recorder, dispatcher):
    other = world.placed(9, technician=world.ivor, state="on_site")
    recorder.outcomes(recorder.deed("note", other, {"reader": "self", "text": "secret"}))
    recorder.outcomes(recorder.deed("note", other, {"reader": "office", "text": "gate"}))
    told = [row["body"]["text"] for row in dispatcher.get("/field/waiting").json()]
    assert told == ["", "gate"]


def test_what_waits_counts_as_the_doing_of_whoever_did_it_also_when_they_have_left(visit, recorder, dispatcher):
    WorkOrder.objects.filter(pk=visit.order_id).update(work={"tasks": [], "questions": []})
    tick = recorder.deed("task", visit, {"words": "Weld it", "done": True}, when=at(9, 20))
    assert recorder.outcomes(tick) == ["waiting"]
    Account.objects.filter(technician__isnull=False).update(is_active=False)
    refused = dispatcher.post(f"/field/waiting/{tick['id']}", {"choice": "apply", "words": ""})
    assert (refused.status_code, refused.json()["code"]) == (422, "no_task")
    WorkOrder.objects.filter(pk=visit.order_id).update(work={"tasks": ["Weld it"], "questions": []})
    assert dispatcher.post(f"/field/waiting/{tick['id']}", {"choice": "apply", "words": ""}).status_code == 200
    assert report(dispatcher, visit)["tasks"] == [{"words": "Weld it", "at": at(9, 20), "by": "Ines Falk"}]
