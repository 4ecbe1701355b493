"""A creating call that is sent again is done once: whoever sends it names it with an `Idempotency-Key`.

The answer is kept with the key for two days. Sent again by the same account it is answered with that; only what was
done is kept, so what was refused may be mended and sent again under the same key.
"""

import hashlib
from collections.abc import Callable
from datetime import datetime, timedelta

from django.http import HttpRequest, HttpResponse

from foundation import clock
from foundation.models import AnsweredCall
from foundation.problems import problem

KEPT_HOURS = 48
LONGEST_KEY = 100
# A call that has not ended by now never will: the process that did it is gone.
ENDS_WITHIN = timedelta(minutes=5)

GetResponse = Callable[[HttpRequest], HttpResponse]


def do_once(get_response: GetResponse) -> GetResponse:
    """Django middleware, after the one that knows who is signed in."""

    def call(request: HttpRequest) -> HttpResponse:
        key = request.headers.get("Idempotency-Key", "").strip()
        if not key or request.method != "POST" or not request.path.startswith("/api/"):
            return get_response(request)
        if request.user.pk is None:
            return get_response(request)
        if len(key) > LONGEST_KEY:
            return problem(400, f"An Idempotency-Key has at most {LONGEST_KEY} characters.", "invalid")
        # A file is not read here: it is as large as files may be.
        is_file = (request.content_type or "").startswith("multipart/")
        body = request.headers.get("Content-Length", "").encode() if is_file else request.body
        asked = hashlib.sha256(request.get_full_path().encode() + b"\n" + body).hexdigest()
        row, new = AnsweredCall.objects.get_or_create(
            account_id=request.user.pk, key=key, defaults={"asked": asked, "at": clock.now()}
        )
        return _do(row, request, get_response) if new else _again(row, asked)

    return call


def _do(row: AnsweredCall, request: HttpRequest, get_response: GetResponse) -> HttpResponse:
    done = False
    try:
        response = get_response(request)
        kept = "json" in response.get("Content-Type", "") or (not response.streaming and not response.content)
        done = 200 <= response.status_code < 300 and kept
        if done:
            row.status, row.answer = response.status_code, response.content.decode()
            row.media_type = response.get("Content-Type", "")
            row.save()
        return response
    finally:
        if not done:
            row.delete()


def _again(row: AnsweredCall, asked: str) -> HttpResponse:
    if row.asked != asked:
        return problem(422, "This Idempotency-Key was used for something else.", "key_used")
    if row.status is None:
        if clock.now() - row.at < ENDS_WITHIN:
            return problem(409, "This is being done just now.", "in_progress")
        return problem(409, "It is not known whether this was done. Look before you send it again.", "not_known")
    answer = HttpResponse(row.answer, status=row.status, content_type=row.media_type)
    answer["Idempotent-Replayed"] = "true"
    return answer


def forget(*, now: datetime) -> int:
    """Throw away what was kept long enough; how many answers."""
    return AnsweredCall.objects.filter(at__lt=now - timedelta(hours=KEPT_HOURS)).delete()[0]
