"""Errors as application/problem+json (RFC 9457)."""

import json
import logging
from typing import Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from foundation.errors import RelayError, TryAgain

log = logging.getLogger(__name__)


def problem(status: int, sentence: str, code: str, **details: Any) -> HttpResponse:
    body = {"title": sentence, "status": status, "code": code, **details}
    return HttpResponse(json.dumps(body), status=status, content_type="application/problem+json")


def no_such_address(_request: HttpRequest, exception: Exception | None = None) -> HttpResponse:  # noqa: ARG001 - Django's
    """An address that nothing answers is a problem like any other."""
    return problem(404, "There is nothing at this address.", "no_such_address")


def add_handlers(api: NinjaAPI) -> None:
    """Every way a request can fail becomes a problem with a code and a sentence."""

    @api.exception_handler(RelayError)
    def _relay(_request: HttpRequest, error: RelayError) -> HttpResponse:
        return problem(error.status, error.sentence, error.code, **error.details())

    @api.exception_handler(AuthenticationError)
    def _signed_out(_request: HttpRequest, _error: AuthenticationError) -> HttpResponse:
        return problem(401, "Sign in first.", "signed_out")

    @api.exception_handler(ValidationError)
    def _invalid(_request: HttpRequest, error: ValidationError) -> HttpResponse:
        rows = [
            {"field": ".".join(str(part) for part in row.get("loc", [])[1:]), "sentence": row.get("msg", "")}
            for row in error.errors
        ]
        first = rows[0] if rows else {"field": "", "sentence": "unreadable"}
        field = first["field"].rsplit(".", 1)[-1]
        return problem(
            422, f"{field or 'Input'}: {first['sentence']}", "invalid", field=field, reasons=[
                f"{row['field']}: {row['sentence']}" for row in rows
            ],
        )  # fmt: skip

    @api.exception_handler(HttpError)
    def _http(_request: HttpRequest, error: HttpError) -> HttpResponse:
        return problem(error.status_code, str(error), "http")

    @api.exception_handler(OperationalError)
    def _database(request: HttpRequest, error: OperationalError) -> HttpResponse:
        log.warning("database trouble on %s: %s", request.path, error)
        again = TryAgain("The database did not answer in time. Try again.")
        return problem(again.status, again.sentence, again.code)
