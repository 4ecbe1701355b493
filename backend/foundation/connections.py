"""The database's connections: there are few of them, and whoever waits for something else holds none."""

from django.db import connection


def give_back() -> None:
    """Give this thread's connection back to the pool before waiting or computing; the next query takes one anew.

    Inside a transaction it stays: the transaction is its own.
    """
    if not connection.in_atomic_block:
        connection.close()
