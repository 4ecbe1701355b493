"""Live changes: announced in the transaction, sent by PostgreSQL once it commits."""

import json
from collections.abc import Iterable

from django.db import connection

CHANNEL = "relay_live"


def announce(topic: str, *, ids: Iterable[int] = (), technicians: Iterable[int | None] = ()) -> None:
    """Tell every open screen that something changed.

    Parameters
    ----------
    topic
        What changed ("visit", "request", "message"); screens look it up again.
    technicians
        Whose phones are concerned, besides the office.
    """
    payload = {"topic": topic, "ids": list(ids)[:50], "technicians": sorted({t for t in technicians if t})}
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, json.dumps(payload)])
