"""How far a file is, told to whoever looks; and the end of whatever goes wrong with it."""

import logging
from collections.abc import Callable
from functools import wraps
from typing import Any

from django.db import transaction

from apps.customers.models import CustomerFile
from foundation import live

log = logging.getLogger(__name__)
READ, IMPORT = "customers.read_file", "customers.import_file"


def settle(file_id: int, **values: Any) -> None:
    with transaction.atomic():
        CustomerFile.objects.filter(pk=file_id).update(**values)
        live.announce("file", ids=[file_id])


def ends_in_words(work: Callable[[int], None]) -> Callable[[int], None]:
    """Whatever goes wrong, the file says that it failed and why: nobody waits for it for ever."""

    @wraps(work)
    def guarded(file_id: int) -> None:
        try:
            work(file_id)
        except Exception as error:
            log.exception("file %s failed", file_id)
            why = f"It failed: {error or type(error).__name__}. What was brought in until then stays; you can go on."
            settle(file_id, state="failed", failure=why[:300])

    return guarded
