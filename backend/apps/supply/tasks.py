"""The worker's part in supply."""

from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from apps.company.queries import settings
from apps.supply import commands
from core.roles import Role
from foundation import clock
from foundation.outside import Outside


@app.task(name=commands.SEND_PAPER, retry=RetryStrategy(max_attempts=5, exponential_wait=3))
def send_purchase_order(order_id: int) -> None:
    """Write to the supplier; safe to run twice."""
    commands.mail_order(now=clock.now(), order_id=order_id)


@app.periodic(cron="7 2 * * *")
@app.task(name="supply.propose_orders", queueing_lock="supply.propose_orders")
def propose_orders(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Put what has fallen below its least level on proposals, where the company wants that; safe to run twice."""
    if settings().stock_order_by_itself:
        commands.propose(actor=Outside(name="Iron Relay", role=Role.DISPATCHER), now=clock.now())


@app.periodic(cron="*/30 * * * *")
@app.task(name="supply.remind_borrowers", queueing_lock="supply.remind_borrowers")
def remind_borrowers(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Remind of loans that are due; safe to run twice."""
    commands.remind_borrowers(now=clock.now())
