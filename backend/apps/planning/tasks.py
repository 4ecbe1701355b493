"""Planning runs, which the planner alone works on, and papers, which any worker prints."""

from procrastinate import JobContext
from procrastinate.contrib.django import app

from apps.planning.commands import printing
from apps.planning.commands.runs import QUEUE, RUN


@app.task(name=RUN, queue=QUEUE, pass_context=True)
def run(context: JobContext, run_id: int) -> None:  # noqa: ARG001 - given by the queue
    """Compute a run's proposal; safe to run twice."""
    # Here and not above: the web process knows this task, and must not load the compiler behind it.
    from apps.planning.planner.runs import compute

    compute(run_id)


@app.task(name=printing.PRINT)
def print_papers(printout_id: int) -> None:
    """Print papers of a day; safe to run twice."""
    printing.make(printout_id)
