"""Reading several tables as of one moment."""

from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection, transaction


@contextmanager
def one_moment() -> Iterator[None]:
    """What is read inside belongs together: nothing that others write meanwhile is seen in one table and not in the
    next. Inside a transaction that has begun already, what it holds locked stays as it is, and this adds nothing."""
    if connection.in_atomic_block:
        yield
        return
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        yield
