"""HTTP: what a customer does at the address of a quote, without an account. Whoever does not know the address finds
nothing, whatever they ask."""

from typing import Annotated

from django.http import FileResponse, HttpRequest, HttpResponse
from ninja import Path, Router, Status

from apps.pricing.document_schemas import TotalsOut
from apps.pricing.queries import today
from apps.quotes import commands, queries
from apps.quotes.inputs import Approval
from apps.quotes.models import QuoteVersion
from apps.quotes.presenting import attachments, quote_pdf, total_of
from apps.quotes.public_schemas import (
    ApproveIn,
    AskIn,
    ChoiceIn,
    ChoiceOut,
    PresentedOut,
    RefuseIn,
    SaidOut,
    TakenOut,
)
from core.quotes import CannotBeChosen
from foundation import clock
from foundation.errors import NotFound, Rejected
from foundation.file_api import handed_out
from foundation.origin import client_address
from foundation.schemas import Key

router = Router()
Address = Annotated[str, Path(min_length=20, max_length=40, pattern=r"^[A-Za-z0-9_-]+$")]


def _presented(version: QuoteVersion) -> PresentedOut:
    problem = queries.standing(version, version.quote, day=today())
    answer = queries.answer_to(version)
    return PresentedOut.of(version, problem=problem, answer=answer, questions=queries.questions_about(version.pk))


@router.get("/public/quotes/{address}", response=PresentedOut, auth=None)
def read(request: HttpRequest, address: Address) -> PresentedOut:
    """The quote at an address."""
    return _presented(queries.version_at(address))


@router.post("/public/quotes/{address}/seen", response={204: None}, auth=None)
def seen(request: HttpRequest, address: Address) -> Status[None]:
    """Somebody looks at it: its author is told of the first time."""
    commands.mark_seen(now=clock.now(), nonce=address)
    return Status(204, None)


@router.post("/public/quotes/{address}/total", response=ChoiceOut, auth=None)
def total(request: HttpRequest, address: Address, body: ChoiceIn) -> ChoiceOut:
    """What a choice comes to: counted as it will be when it is signed."""
    try:
        found = total_of(queries.version_at(address), body.option, body.ticked)
    except CannotBeChosen as error:
        raise Rejected(str(error), field="option") from error
    return ChoiceOut(totals=TotalsOut.of(found.totals), deposit=found.deposit)


@router.post("/public/quotes/{address}/approve", response=TakenOut, auth=None)
def approve(request: HttpRequest, address: Address, body: ApproveIn) -> TakenOut:
    """Sign it. Sent again, nothing more happens."""
    now = clock.now()
    approval = Approval(
        option=body.option, ticked=list(dict.fromkeys(body.ticked)), name=body.name, drawing=body.picture(),
        digest=body.digest, gross=body.gross, accepts_terms=body.accepts_terms,
        address=client_address(request)[:60], at=now,
    )  # fmt: skip
    return TakenOut.of(commands.approve(now=now, nonce=address, approval=approval))


@router.post("/public/quotes/{address}/refuse", response=TakenOut, auth=None)
def refuse(request: HttpRequest, address: Address, body: RefuseIn) -> TakenOut:
    """Say no, and why."""
    row = commands.refuse(
        now=clock.now(), nonce=address, name=body.name, why=body.why, note=body.note,
        address=client_address(request)[:60],
    )  # fmt: skip
    return TakenOut.of(row)


@router.post("/public/quotes/{address}/ask", response={201: SaidOut}, auth=None)
def ask(request: HttpRequest, address: Address, body: AskIn) -> Status[SaidOut]:
    """Ask something about it."""
    return Status(201, SaidOut.of(commands.ask(now=clock.now(), nonce=address, name=body.name, text=body.text)))


@router.get("/public/quotes/{address}/pdf", response={200: bytes}, auth=None)
def pdf(request: HttpRequest, address: Address) -> HttpResponse:
    """The quote on paper; once it was signed, with the signature."""
    version = queries.version_at(address)
    content = quote_pdf(version, queries.answer_to(version))
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{version.quote.number}-{version.number}.pdf"'
    return answer


@router.get("/public/quotes/{address}/files/{int:file_id}", response={200: bytes}, auth=None)
def attachment(request: HttpRequest, address: Address, file_id: Key) -> FileResponse:
    """A file that goes with the quote; no other file is there."""
    found = next((row for row in attachments(queries.version_at(address)) if row.pk == file_id), None)
    if found is None:
        raise NotFound("There is no such file with this quote.", code="no_file")
    return handed_out(found)
