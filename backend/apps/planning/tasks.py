"""Planning runs, which the planner alone works on, and papers, which any worker prints."""

from procrastinate import JobContext
from procrastinate.contrib.django import app

from apps.planning.commands import printing
from apps.planning.commands.runs import QUEUE, RUN, retire
from foundation import clock


@app.task(name=RUN, queue=QUEUE, pass_context=True)
def run(context: JobContext, run_id: int) -> None:  # noqa: ARG001 - given by the queue
    """Compute a run's proposal; safe to run twice."""
    # Here and not above: the web process knows this task, and must not load the compiler behind it.
    from apps.planning.planner.runs import compute

    compute(run_id)


@app.periodic(cron="37 3 * * *")
@app.task(name="planning.retire_proposals", queueing_lock="planning.retire_proposals")
def retire_proposals(timestamp: int) -> None:  # noqa: ARG001 - given by the queue
    """Throw away what nobody will look at again of old runs."""
    retire(now=clock.now())


@app.task(name=printing.PRINT)
def print_papers(printout_id: int) -> None:
    """Print papers of a day; safe to run twice."""
    printing.make(printout_id)
