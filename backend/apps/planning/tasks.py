"""The planner's part in planning runs; it alone works on their queue."""

from procrastinate import JobContext
from procrastinate.contrib.django import app

from apps.planning.commands.runs import QUEUE, RUN


@app.task(name=RUN, queue=QUEUE, pass_context=True)
def run(context: JobContext, run_id: int) -> None:  # noqa: ARG001 - given by the queue
    """Compute a run's proposal; safe to run twice."""
    # Here and not above: the web process knows this task, and must not load the compiler behind it.
    from apps.planning.planner.runs import compute

    compute(run_id)
