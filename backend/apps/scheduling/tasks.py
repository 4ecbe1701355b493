"""Planning runs, which the planner alone works on."""

from procrastinate import JobContext
from procrastinate.contrib.django import app

from apps.scheduling.commands.runs import QUEUE, RUN, retire
from foundation import clock


@app.task(name=RUN, queue=QUEUE, pass_context=True)
def run(context: JobContext, run_id: int) -> None:  # noqa: ARG001 - given by the queue
    """Compute a run's proposal; safe to run twice."""
    # Here and not above: the web process knows this task, and must not load the compiler behind it.
    from apps.scheduling.planner.runs import compute

    compute(run_id)


@app.periodic(cron="37 3 * * *")
@app.task(name="scheduling.retire_proposals", queueing_lock="scheduling.retire_proposals")
def retire_proposals(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away what nobody will look at again of old runs."""
    retire(now=clock.now())
