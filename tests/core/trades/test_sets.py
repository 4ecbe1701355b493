"""The starter sets."""

from collections import Counter

from core.trades import TRADES, starter_jobs


def test_every_job_is_one_that_can_be_made():
    jobs = [job for trade in TRADES for job in trade.jobs]
    assert len(starter_jobs()) == len(jobs)
    for job in jobs:
        assert 1 <= job.priority <= 5
        assert 15 <= job.minutes <= 600
        assert 1 <= job.crew <= 8
        assert job.needs
        assert all(1 <= level <= 5 for level in job.needs.values())
        assert len(job.code) <= 40
        assert len(job.name) <= 80
        assert job.respond_minutes is None or job.priority <= 2


def test_every_trade_has_work_that_calls_out_and_work_that_is_not():
    assert {trade.key for trade in TRADES} == {"lifts", "heating", "electrical", "plumbing", "doors", "it"}
    for trade in TRADES:
        priorities = Counter(job.priority for job in trade.jobs)
        assert priorities[1] == 1
        assert priorities[4] >= 1
        assert list(trade.jobs) == sorted(trade.jobs, key=lambda job: job.priority if job.priority < 3 else 3)


def test_skills_are_called_the_same_everywhere():
    names = {name for job in starter_jobs().values() for name in job.needs}
    assert len({name.casefold() for name in names}) == len(names)
