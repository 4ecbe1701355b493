"""The worker's part in reports."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.reports import commands
from core.roles import Role
from foundation import clock
from foundation.outside import Outside


@app.task(name=commands.SEND_REPORT, retry=RetryStrategy(max_attempts=5, exponential_wait=3))
def send_report(sent_id: int) -> None:
    """Send a report by e-mail; safe to run twice."""
    actor = Outside(name="Iron Relay", role=Role.DISPATCHER)
    commands.mail_report(actor=actor, now=clock.now(), sent_id=sent_id)
