"""Papers, printed in the background."""

from procrastinate.contrib.django import app

from apps.board.commands import printing


@app.task(name=printing.PRINT)
def print_papers(printout_id: int) -> None:
    """Print papers of a day; safe to run twice."""
    printing.make(printout_id)
