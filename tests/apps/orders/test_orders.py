"""Work orders: kept editions, overrides, sequences, the timeline, the list, paper."""

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from apps.catalogue.models import JobType
from apps.intake.models import Request
from apps.orders import order_details, printing
from apps.orders.models import Visit, VisitLink, WorkOrder
from apps.scheduling.planner.runs import compute
from core.scheduling.model.links import GREATEST_NIGHT
from foundation.moments import to_datetime
from tests.apps.board.test_placing import edit
from tests.apps.conftest import at

pytestmark = pytest.mark.django_db

SEQUENCE = [
    {"title": "Strip-out", "seconds": 7200, "ties": [{"kind": "after", "to": 1}]},
    {"title": "Install", "seconds": 7200, "crew": 2, "ties": [{"kind": "after", "to": 2}]},
]


def change_job(world, as_role, **changes):
    admin = as_role("administrator")
    job = next(row for row in admin.get("/catalogue/job-types").json() if row["id"] == world.door_job.pk)
    return admin.put(f"/catalogue/job-types/{job['id']}", {**job, **changes})


def work_order_words(order_id):
    return printing._words(order_details.order(order_id))


def an_order(world, dispatcher, **wanted):
    body = {"site_id": world.site.pk, "what_is_wrong": "Squeaks", "job_type_id": world.door_job.pk, **wanted}
    request = dispatcher.post("/requests", body).json()
    made = dispatcher.post("/orders", {"request_id": request["id"], "version": request["version"]}).json()
    return dispatcher.get(f"/orders/{made['id']}").json()


def test_an_order_keeps_the_form_it_was_made_with(world, as_role, dispatcher):
    question = {"key": "oil", "label": "Oiled?", "kind": "yes_no", "required": "to close"}
    change_job(world, as_role, questions=[question], tasks=["Oil it"])
    order = an_order(world, dispatcher)
    body = {"version": order["version"], "tasks": ["Oil it", " Sweep up ", ""], "questions": []}
    order = dispatcher.put(f"/orders/{order['id']}/work", body).json()
    assert order["tasks"] == ["Oil it", "Sweep up"]
    assert [row["field"] for row in order["overrides"]] == ["tasks", "questions"]
    entry = dispatcher.get(f"/orders/{order['id']}/timeline").json()["rows"][0]
    assert entry["sentence"] == "changed the tasks and the checklist for this order"
    back = {"version": order["version"], "field": "questions"}
    order = dispatcher.post(f"/orders/{order['id']}/restore", back).json()
    assert ([row["key"] for row in order["checklist"]], order["tasks"]) == (["oil"], ["Oil it", "Sweep up"])
    assert an_order(world, dispatcher)["tasks"] == ["Oil it"]  # the job type is as it was


def test_work_that_cannot_be_is_refused_and_an_order_that_is_over_keeps_its_own(world, dispatcher):
    order = an_order(world, dispatcher)
    wrong = {
        "version": order["version"],
        "questions": [{"key": "a", "label": "x", "kind": "choice", "choices": ["one"]}],
    }
    refused = dispatcher.put(f"/orders/{order['id']}/work", wrong)
    assert (refused.status_code, refused.json()["field"]) == (422, "questions")
    WorkOrder.objects.filter(pk=order["id"]).update(state="done")
    late = dispatcher.put(f"/orders/{order['id']}/work", {"version": order["version"], "tasks": ["More"]})
    assert (late.status_code, late.json()["code"]) == (422, "wrong_state")
    stale = dispatcher.put(f"/orders/{order['id']}/work", {"version": 99, "tasks": ["More"]})
    assert stale.status_code == 409


def test_paper_has_the_work_of_this_order(world, as_role, dispatcher):
    change_job(world, as_role, tasks=["Oil it"])
    order = an_order(world, dispatcher)
    dispatcher.put(f"/orders/{order['id']}/work", {"version": order["version"], "tasks": ["Sweep the pit"]})
    words = work_order_words(order["id"])
    assert words["tasks"] == ["Sweep the pit"]


def test_the_order_says_when_it_is_due(world, dispatcher):
    order = an_order(world, dispatcher)
    visit = Visit.objects.get(order_id=order["id"])
    due = to_datetime(at(17))
    assert edit(dispatcher, visit, due=at(17)).status_code == 200
    assert dispatcher.get(f"/orders/{order['id']}").json()["due"] == int(due.timestamp())


def test_an_order_takes_the_parts_and_the_worth_of_its_job_type(world, as_role, dispatcher):
    change_job(world, as_role, parts={"door-roller": 2}, worth=300, visits=[{"title": "Paint", "seconds": 2700}])
    order = an_order(world, dispatcher)
    assert order["parts"] == {"door-roller": 2}
    assert [(row["takes"], row["worth"]) for row in order["visits"]] == [({"door-roller": 2}, 150), ({}, 150)]
    assert order["overrides"] == []


def test_other_parts_than_the_job_type_s_are_shown_and_set_back(world, as_role, dispatcher):
    change_job(world, as_role, parts={"door-roller": 2})
    order = an_order(world, dispatcher)
    visit = Visit.objects.get(order_id=order["id"])
    assert edit(dispatcher, visit, takes={"light-curtain": 1}).status_code == 200
    order = dispatcher.get(f"/orders/{order['id']}").json()
    assert order["overrides"] == [
        {"field": "takes", "label": "parts", "now": {"light-curtain": 1}, "usual": {"door-roller": 2}}
    ]
    body = {"version": order["version"], "field": "takes"}
    assert dispatcher.post(f"/orders/{order['id']}/restore", body).json()["parts"] == {"door-roller": 2}


def test_an_edition_from_before_there_were_parts_compares_none(world, dispatcher):
    order = an_order(world, dispatcher)
    edition = WorkOrder.objects.get(pk=order["id"]).edition
    del edition.content["parts"], edition.content["worth"]
    edition.save()
    assert dispatcher.get(f"/orders/{order['id']}").json()["overrides"] == []


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"questions": [{"key": "A", "label": "x", "kind": "text"}]}, "questions"),
        ({"questions": [{"key": "a", "label": "x", "kind": "choice", "choices": ["one"]}]}, "questions"),
        ({"fields": [{"key": "a", "label": "x", "kind": "text", "shown_if": ["b", True]}]}, "fields"),
        ({"visits": [{"title": "", "ties": []}]}, "visits"),
        ({"visits": [{"title": "x", "ties": [{"kind": "after", "to": 2}]}]}, "visits"),
        ({"needs": {"juggling": 3}}, "needs"),
        ({"offers": {"weight_near": 500}}, "offers"),
    ],
)
def test_a_job_type_that_cannot_be_is_refused_with_the_field(world, as_role, changes, field):
    answer = change_job(world, as_role, **changes)
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert JobType.objects.get(pk=world.door_job.pk).version == 1


def test_a_job_type_with_further_visits_makes_a_sequence(world, as_role, dispatcher):
    change_job(world, as_role, visits=SEQUENCE)
    order = an_order(world, dispatcher)
    assert [(v["label"].split("/")[-1], v["part_title"], v["crew"]) for v in order["visits"][1:]] == [
        ("2", "Strip-out", 1),
        ("3", "Install", 2),
    ]
    assert [(link["kind"], link["first_id"], link["second_id"]) for link in order["links"]] == [
        ("after", order["visits"][0]["id"], order["visits"][1]["id"]),
        ("after", order["visits"][1]["id"], order["visits"][2]["id"]),
    ]


def test_a_ring_and_a_link_the_wrong_way_round_are_refused_with_the_reason(world, as_role, dispatcher):
    change_job(world, as_role, visits=SEQUENCE)
    order = an_order(world, dispatcher)
    first, second, third = (visit["id"] for visit in order["visits"])
    body = {"version": order["version"], "kind": "after", "first_id": third, "second_id": first}
    ring = dispatcher.post(f"/orders/{order['id']}/links", body)
    assert ring.json()["title"].startswith("That closes a ring: ")
    VisitLink.objects.all().delete()
    Visit.objects.filter(pk=first).update(promise_start=to_datetime(at(14)), promise_end=to_datetime(at(15)))
    Visit.objects.filter(pk=second).update(promise_start=to_datetime(at(10)), promise_end=to_datetime(at(11)))
    body = {"version": order["version"], "kind": "after", "first_id": first, "second_id": second}
    wrong = dispatcher.post(f"/orders/{order['id']}/links", body)
    assert wrong.json()["title"].endswith("the link is the wrong way round.")
    right = {**body, "first_id": second, "second_id": first}
    assert dispatcher.post(f"/orders/{order['id']}/links", right).status_code == 200


def test_a_sequence_is_planned_in_one_step_with_its_crew(world, as_role, dispatcher):
    change_job(world, as_role, visits=SEQUENCE)
    order = an_order(world, dispatcher)
    ids = [visit["id"] for visit in order["visits"]]
    body = {"kind": "sequence", "day": "2026-11-24", "days": 3, "visit_ids": ids, "seconds": 0.5}
    run = dispatcher.post("/runs", body).json()
    compute(run["id"])
    done = dispatcher.get(f"/runs/{run['id']}").json()
    assert {change["visit_id"] for change in done["proposal"]["changes"]} == set(ids)
    assert dispatcher.post(f"/runs/{run['id']}/accept", {"visit_ids": ids}).status_code == 200
    one, two, three = Visit.objects.order_by("part")
    assert one.start < two.start < three.start
    assert {three.technician_id, *three.mates} == {world.ines.pk, world.ivor.pk}


def test_a_visit_is_spread_over_days_by_the_same_technician(world, dispatcher):
    order = an_order(world, dispatcher, duration_seconds=6 * 3600)
    [visit] = order["visits"]
    path = f"/orders/{order['id']}/visits/{visit['id']}/spread"
    order = dispatcher.post(path, {"version": order["version"], "days": 2}).json()
    assert [row["duration_seconds"] for row in order["visits"]] == [3 * 3600, 3 * 3600]
    assert {link["kind"] for link in order["links"]} == {"after", "same_technician"}
    assert VisitLink.objects.get(kind="after").greatest == GREATEST_NIGHT


def test_the_timeline_has_everything_from_what_to_what(world, dispatcher):
    order = an_order(world, dispatcher)
    fields = {name: order[name] for name in ("version", "title", "description", "contact_name", "priority", "source")}
    dispatcher.put(f"/orders/{order['id']}", {**fields, "technician_note": "Ring twice"})
    dispatcher.post(f"/orders/{order['id']}/notes", {"text": "Customer called again"})
    entries = dispatcher.get(f"/orders/{order['id']}/timeline").json()["rows"]
    assert entries[0]["note"] == "Customer called again"
    assert entries[1]["values"] == {"technician_note": ["", "Ring twice"]}
    assert {entry["record"] for entry in entries} == {"order", "request"}


def test_the_list_filters_searches_and_sorts(world, dispatcher):
    promised = an_order(world, dispatcher)
    Visit.objects.filter(order_id=promised["id"]).update(
        promise_start=to_datetime(at(12)), promise_end=to_datetime(at(14))
    )
    plain = an_order(world, dispatcher, priority=1)

    def found(**filters):
        return [row["id"] for row in dispatcher.post("/orders/list", {"filters": filters}).json()["rows"]]

    assert found() == [plain["id"], promised["id"]]
    assert found(trouble="nobody") == [promised["id"]]
    assert found(priorities=[1]) == [plain["id"]]
    assert found(text="seagate or-12345") == [plain["id"], promised["id"]]
    assert found(text=plain["number"]) == [plain["id"]]
    WorkOrder.objects.filter(pk=plain["id"]).update(description="Grinds above the third floor")
    assert found(text="third GRINDS") == [plain["id"]]
    assert found(text="zzyx") == found(states=["done"]) == found(tags=["warranty"]) == []
    assert dispatcher.post("/orders/list", {"sort": "colour"}).status_code == 422


def test_an_order_is_found_by_what_was_answered_in_its_own_fields(world, dispatcher):
    order = an_order(world, dispatcher)
    an_order(world, dispatcher)
    WorkOrder.objects.filter(pk=order["id"]).update(extra={"claim": "Kestrel 77"})

    def found(text):
        rows = dispatcher.post("/orders/list", {"filters": {"text": text}}).json()["rows"]
        return [row["id"] for row in rows]

    assert found("kestrel") == [order["id"]]
    assert found("claim") == []


def test_a_customers_visits_come_first_those_ahead_then_the_past_ones(world, dispatcher):
    done = world.placed(8, state="done", finished_at=to_datetime(at(9)), outcome="New spring")
    later, sooner = world.placed(14), world.placed(11, technician=world.ivor)
    rows = dispatcher.get(f"/orders/of/customer/{world.customer.pk}/visits").json()
    assert [row["visit_id"] for row in rows] == [sooner.pk, later.pk, done.pk]
    assert [row["technician"] for row in rows] == ["Ivor Larkin", "Ines Falk", "Ines Falk"]
    assert rows[2]["outcome"] == "New spring"


def test_the_list_needs_as_many_queries_for_many_orders_as_for_few(world, dispatcher):
    an_order(world, dispatcher)
    with CaptureQueriesContext(connection) as few:
        dispatcher.post("/orders/list", {})
    for _ in range(5):
        an_order(world, dispatcher)
    with CaptureQueriesContext(connection) as many:
        dispatcher.post("/orders/list", {})
    assert len(many) == len(few)


def test_the_list_says_who_goes_and_when(world, dispatcher):
    """Of several visits: everybody who goes, and the first that is not over."""
    order = world.placed(9, state="done", technician=world.ivor).order
    for part, state, hour in ((2, "placed", 14), (3, "cancelled", 11)):
        Visit.objects.create(
            order=order, part=part, state=state, start=to_datetime(at(hour)), technician=world.ines,
            duration_seconds=3600,
        )  # fmt: skip
    waiting = world.visit().order
    rows = {row["id"]: row for row in dispatcher.post("/orders/list", {}).json()["rows"]}
    assert (rows[order.pk]["technicians"], rows[order.pk]["planned"]) == (["Ivor Larkin", "Ines Falk"], at(14))
    assert (rows[waiting.pk]["technicians"], rows[waiting.pk]["planned"]) == ([], None)
    answer = dispatcher.post("/orders/export", {"columns": ["number", "technicians", "planned"]})
    text = b"".join(answer.streaming_content).decode()
    assert f'{order.number},"Ivor Larkin, Ines Falk",2026-11-23 14:00' in text


def test_what_is_shown_goes_out(world, as_role, dispatcher):
    order = an_order(world, dispatcher)
    WorkOrder.objects.filter(pk=order["id"]).update(title="=1+1", extra={"claim": "C 7"})
    question = {"key": "claim", "label": "Claim", "kind": "text"}
    as_role("administrator").put("/company/fields/order", {"version": 0, "questions": [question]})
    answer = dispatcher.post("/orders/export", {"columns": ["number", "title", "extra.claim"]})
    text = b"".join(answer.streaming_content).decode()
    assert text.startswith("\ufeff")  # or a spreadsheet takes it for another character set
    assert text[1:].splitlines() == ["Number,Title,Claim", f"{order['number']},'=1+1,C 7"]


def test_views_are_ones_own_or_shared(world, as_role, dispatcher):
    dispatcher.post("/orders/views", {"name": "Late", "query": {"trouble": "overdue"}})
    shared = dispatcher.post("/orders/views", {"name": "Big", "shared": True, "query": {}}).json()
    other = as_role("other")
    assert [(view["name"], view["own"]) for view in other.get("/orders/views").json()] == [("Big", False)]
    assert other.client.delete(f"/api/v1/orders/views/{shared['id']}").status_code == 404


def test_own_fields_of_the_job_type_are_needed_to_make_an_order(world, as_role, dispatcher):
    field = {"key": "code", "label": "Code on the display", "kind": "text", "required": "to create"}
    change_job(world, as_role, fields=[field])
    body = {"site_id": world.site.pk, "what_is_wrong": "x", "job_type_id": world.door_job.pk}
    request = dispatcher.post("/requests", body).json()
    answer = dispatcher.post("/orders", {"request_id": request["id"], "version": 1})
    assert answer.json()["title"] == "Code on the display is needed."
    assert Request.objects.get(pk=request["id"]).state == "new"


def test_what_is_needed_to_close_is_asked_for_at_the_review(world, as_role):
    question = {"key": "meter", "label": "Meter reading", "kind": "number", "required": "to close"}
    as_role("administrator").put("/company/fields/order", {"version": 0, "questions": [question]})
    visit = world.placed(8, state="done", arrived_at=to_datetime(at(8)), finished_at=to_datetime(at(9)))
    admin = as_role("administrator")
    body = {"version": visit.version, "step": "review", "note": ""}
    refused = admin.post(f"/visits/{visit.pk}/step", body)
    assert refused.json()["title"] == f"Meter reading is needed before {visit.order.number} is closed."
    WorkOrder.objects.filter(pk=visit.order_id).update(extra={"meter": 7})
    assert admin.post(f"/visits/{visit.pk}/step", body).status_code == 200


def test_the_companys_defaults_fill_what_nobody_said(world, as_role, dispatcher):
    admin = as_role("administrator")
    version = admin.get("/company/settings").json()["version"]
    changes = {"default_minutes": 50, "default_days": 14}
    assert admin.post("/company/settings", {"version": version, "changes": changes}).status_code == 200
    order = an_order(world, dispatcher, job_type_id=None)
    assert order["visits"][0]["duration_seconds"] == 3000
    assert order["visits"][0]["due"] == at(10) + 14 * 86_400


def test_a_work_order_is_printed(world, dispatcher):
    order = an_order(world, dispatcher)
    answer = dispatcher.get(f"/orders/{order['id']}/pdf")
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF-")


def test_numbers_follow_the_companys_pattern(world, as_role, dispatcher):
    admin = as_role("administrator")
    version = admin.get("/company/settings").json()["version"]
    changes = {"order_number": "{year}/{number}", "order_number_next": 5000}
    assert admin.post("/company/settings", {"version": version, "changes": changes}).status_code == 200
    assert [an_order(world, dispatcher)["number"] for _ in range(2)] == ["2026/5000", "2026/5001"]


def test_a_link_is_turned_round_in_one_press_and_stays_when_that_cannot_be(world, dispatcher):
    order = an_order(world, dispatcher)
    path = f"/orders/{order['id']}"
    for title in ("Second", "Third"):
        order = dispatcher.post(
            f"{path}/visits", {"version": order["version"], "title": title, "duration_seconds": 3600}
        ).json()
    one, two, three = [row["id"] for row in order["visits"]]

    def tie(first, second):
        body = {"version": order["version"], "kind": "after", "first_id": first, "second_id": second, "least": 3600}
        return dispatcher.post(f"{path}/links", body).json()

    order = tie(one, two)
    turned = dispatcher.post(f"{path}/links/{order['links'][0]['id']}/turn", {"version": order["version"]}).json()
    [link] = turned["links"]
    assert (link["first_id"], link["second_id"], link["least"]) == (two, one, 3600)
    order = turned
    order = tie(one, three)
    order = tie(two, three)
    # Turning 2 → 3 closes a ring (3 → 2 → 1 → 3): refused, and all is as it was.
    last = order["links"][-1]["id"]
    refused = dispatcher.post(f"{path}/links/{last}/turn", {"version": order["version"]})
    assert refused.status_code == 422
    assert dispatcher.get(path).json()["links"] == order["links"]
