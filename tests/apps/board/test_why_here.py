"""Why a visit stands where it stands, as it is told beside the board."""

from apps.orders.models import Visit
from foundation.moments import to_datetime
from tests.apps.board.test_placing import place
from tests.apps.conftest import at
from tests.apps.scheduling.test_runs import a_run, accept


def why(api, visit):
    answer = api.get(f"/visits/{visit.pk}/why")
    assert answer.status_code == 200, answer.json()
    return answer.json()


def test_it_says_who_put_it_there_and_what_stands_before_and_after(world, dispatcher):
    world.placed(11)
    visit = world.visit(promise_start=to_datetime(at(12)), promise_end=to_datetime(at(14)))
    assert place(dispatcher, visit, world.ines, at(12, 30)).status_code == 200
    told = why(dispatcher, visit)
    assert told["decided"]["by"] == "The dispatcher"
    assert told["decided"]["sentence"] == "placed it to Ines Falk, 12:30"
    assert told["reasons"][0] == "Inside the promise, 1 h 30 min to spare"
    # Both are at one site: no drive between them.
    sooner, later = told["slips"]
    assert sooner.startswith("Could begin 30 min sooner; then ")
    assert later.startswith("Could begin 1 h 30 min later; beyond that: ")
    assert told["likely"] == {"start": at(12, 30), "end": at(12, 30)}


def test_a_reason_given_for_breaking_a_limit_is_told(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(10)), promise_end=to_datetime(at(11)))
    place(dispatcher, visit, world.ines, at(12), because="the porter asked for noon")
    told = why(dispatcher, visit)
    assert told["decided"]["note"].endswith("All the same: the porter asked for noon")


def test_the_planner_s_reasons_stay_with_what_was_accepted(world, dispatcher):
    visit = world.visit(promise_start=to_datetime(at(13)), promise_end=to_datetime(at(15)))
    run = a_run(dispatcher)
    assert accept(dispatcher, run).status_code == 200
    told = why(dispatcher, visit)
    assert told["decided"]["sentence"].endswith("from a proposal")
    assert told["decided"]["note"] == "; ".join(run["proposal"]["changes"][0]["reasons"])


def test_who_is_wanted_there_is_a_reason(world, dispatcher):
    world.site.preferred.add(world.ines)
    visit = world.placed(11)
    assert "Ines Falk is preferred there" in why(dispatcher, visit)["reasons"]


def test_what_stands_nowhere_has_no_reason_to(world, dispatcher):
    assert why(dispatcher, world.visit()) is None


def test_what_has_begun_is_past_slipping(world, dispatcher):
    visit = world.placed(9, state="on_site", departed_at=to_datetime(at(8, 50)), arrived_at=to_datetime(at(9, 2)))
    told = why(dispatcher, visit)
    assert (told["slips"], told["likely"], told["decided"]) == ([], None, None)


def test_asking_costs_few_questions_and_changes_nothing(world, dispatcher, django_assert_max_num_queries):
    for hour in (8, 10, 13):
        world.placed(hour)
    visit = world.placed(15)
    before = list(Visit.objects.values_list("id", "version"))
    with django_assert_max_num_queries(23):
        why(dispatcher, visit)
    assert list(Visit.objects.values_list("id", "version")) == before


def test_there_is_nothing_to_say_of_no_visit(world, dispatcher):
    assert dispatcher.get("/visits/999999/why").status_code == 404
