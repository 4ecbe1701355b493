"""Wire shapes of work orders. Times are epoch seconds."""

from collections.abc import Mapping
from datetime import date
from typing import Annotated, Any, Literal, Self

from ninja import Field, Schema

from apps.customers.schemas import AssetOut, CustomerOut, NamedOut, SiteOut
from apps.intake.schemas import PromiseOut
from apps.orders import order_details
from apps.orders.amounts import kept_lines, sums_of, yardstick
from apps.orders.by_tag import OrdersByTag
from apps.orders.inputs import OrderFields
from apps.orders.listing import Filters, OrderLine
from apps.orders.models import SavedView, Visit, VisitLink, WorkOrder
from apps.orders.schemas import Version, VisitOut
from apps.orders.work import overrides, questions_of, work_of
from apps.pricing.document_schemas import DiscountIn, DocumentLineOut, SumsOut, lines_out
from core.forms import stored
from core.orders import OrderState, VisitState
from core.orders.links import LinkKind
from foundation.moments import to_moment
from foundation.schemas import Text

Id = Annotated[int, Field(ge=1, le=2**62)]
Gap = Annotated[int, Field(ge=0, le=366 * 86_400)]


class OrderLineOut(Schema):
    id: int
    number: str
    state: str
    title: str
    job_type: str | None
    customer_id: int
    customer: str
    site: str
    address: str
    area: str | None
    priority: int
    billing: str
    po_number: str
    source: str
    tags: list[str]
    made: int
    made_by: str
    promise_start: int | None
    promise_end: int | None
    due: int | None
    extra: dict[str, Any]
    technicians: list[str]
    planned: int | None


class OrdersOut(Schema):
    """A page of the list; `columns` are all that can be shown. `total` comes with the first page."""

    total: int | None
    next: str | None
    rows: list[OrderLineOut]
    columns: dict[str, str]


class FiltersIn(Schema):
    """What is looked for; what is left out is not asked for."""

    text: Text = Field("", max_length=200)
    states: list[Annotated[Text, Field(max_length=12)]] = Field(default_factory=list, max_length=10)
    job_type_ids: list[Id] = Field(default_factory=list, max_length=60)
    area_ids: list[Id] = Field(default_factory=list, max_length=60)
    priorities: list[Annotated[int, Field(ge=1, le=5)]] = Field(default_factory=list, max_length=5)
    tags: list[Annotated[Text, Field(max_length=40)]] = Field(default_factory=list, max_length=20)
    billing: Text = Field("", max_length=12)
    source: Text = Field("", max_length=40)
    customer_id: Id | None = None
    site_id: Id | None = None
    technician_id: Id | None = None
    made_from: date | None = None
    made_until: date | None = None
    promised_from: date | None = None
    promised_until: date | None = None
    trouble: Text = Field("", max_length=12)
    extra: dict[Annotated[Text, Field(max_length=40)], Any] = Field(default_factory=dict, max_length=10)

    def filters(self) -> Filters:
        values: dict[str, Any] = {name: getattr(self, name) for name in FiltersIn.model_fields}
        plain: dict[str, Any] = {name: tuple(v) if isinstance(v, list) else v for name, v in values.items()}
        return Filters(**plain)


class WorkIn(Schema):
    """What is to be done for this order: see apps.orders.work."""

    version: int = Version
    tasks: list[Annotated[Text, Field(max_length=300)]] = Field(default_factory=list, max_length=60)
    questions: list[dict[str, Any]] = Field(default_factory=list, max_length=80)


class ListIn(Schema):
    filters: FiltersIn = Field(default_factory=lambda: FiltersIn.model_validate({}))
    sort: Text = Field("newest", max_length=20)
    cursor: Text = Field("", max_length=600)


class ByTagIn(Schema):
    filters: FiltersIn = Field(default_factory=lambda: FiltersIn.model_validate({}))


class TagSumOut(Schema):
    """`tag` is its name, empty: lines without one; `net` in the currency's smallest unit, without tax."""

    tag: str
    orders: int
    lines: int
    net: int


class ByTagOut(Schema):
    """What orders come to by the tags of their lines; `off` is taken off whole orders, `net` what is left.

    `without`: orders from before there were lines of their own; they are not counted.
    """

    tags: list[TagSumOut]
    off: int
    net: int
    orders: int
    without: int

    @classmethod
    def of(cls, counted: OrdersByTag, names: Mapping[str, str]) -> Self:
        found = counted.found
        rows = [
            TagSumOut(tag=names.get(row.tag, row.tag), orders=row.documents, lines=row.lines, net=row.net)
            for row in found.tags
        ]
        return cls(tags=rows, off=found.off, net=found.net, orders=found.documents, without=counted.without)


class ExportIn(Schema):
    filters: FiltersIn = Field(default_factory=lambda: FiltersIn.model_validate({}))
    sort: Text = Field("newest", max_length=20)
    columns: list[Annotated[Text, Field(max_length=60)]] = Field(min_length=1, max_length=60)


class LinkOut(Schema):
    id: int
    kind: LinkKind
    first_id: int
    second_id: int
    least: int
    greatest: int | None

    @classmethod
    def of(cls, row: VisitLink) -> Self:
        return cls(
            id=row.pk, kind=LinkKind(row.kind), first_id=row.first_id, second_id=row.second_id, least=row.least,
            greatest=row.greatest,
        )  # fmt: skip


class OverrideOut(Schema):
    """A value that differs from the job type the order was made with."""

    field: str
    label: str
    now: Any
    usual: Any


class OrderVisitOut(VisitOut):
    label: str
    part_title: str
    technician: str | None
    notes: str
    outcome: str


class OrderDetailOut(Schema):
    id: int
    version: int
    number: str
    state: str
    # Whether nothing is to be done for it any more.
    over: bool
    title: str
    description: str
    customer: CustomerOut
    site: SiteOut
    asset: AssetOut | None
    more_assets: list[AssetOut]
    payer: NamedOut | None
    payer_address: str
    contact_name: str
    contact_phone: str
    source: str
    billing: str
    po_number: str
    priority: int
    tags: list[str]
    technician_note: str
    invoice_text: str
    extra: dict[str, Any]
    questions: list[dict[str, Any]]
    job_type_id: int | None
    job_type: str | None
    edition: int | None
    newest_edition: int | None
    tasks: list[str]
    checklist: list[dict[str, Any]]
    parts: dict[str, int]
    lines: list[DocumentLineOut]
    discounts: list[DiscountIn]
    sums: SumsOut
    overrides: list[OverrideOut]
    # When the next visit that is not over is due.
    due: int | None
    request_id: int | None
    request: str | None
    made: int
    made_by: str
    visits: list[OrderVisitOut]
    links: list[LinkOut]

    @classmethod
    def of(cls, row: WorkOrder, *, sees_costs: bool) -> Self:
        newest = order_details.newest_edition(row)
        plain = {
            name: getattr(row, name)
            for name in (
                "version", "number", "state", "title", "description", "payer_address", "contact_name",
                "contact_phone", "source", "billing", "po_number", "priority", "tags", "technician_note",
                "invoice_text", "extra", "job_type_id", "request_id", "made_by",
            )
        }  # fmt: skip
        return cls(
            id=row.pk,
            over=OrderState(row.state).is_over,
            customer=CustomerOut.from_orm(row.customer),
            site=SiteOut.from_orm(row.site),
            asset=AssetOut.from_orm(row.asset) if row.asset else None,
            more_assets=[AssetOut.from_orm(asset) for asset in row.more_assets.all()],
            payer=NamedOut.from_orm(row.payer) if row.payer else None,
            questions=stored(questions_of(row)),
            job_type=row.job_type.name if row.job_type else None,
            edition=row.edition.number if row.edition else None,
            newest_edition=newest.number if newest else None,
            tasks=work_of(row, "tasks"),
            checklist=work_of(row, "questions"),
            parts=order_details.parts_of(row.pk),
            lines=lines_out(kept_lines(row), sees_costs=sees_costs),
            discounts=[DiscountIn(**one) for one in row.discounts],
            sums=order_sums(row, sees_costs=sees_costs),
            due=to_moment(row.due),
            overrides=[OverrideOut(**found) for found in overrides(row)],
            request=row.request.number if row.request else None,
            made=int(row.made_at.timestamp()),
            visits=[visit_out(visit) for visit in order_details.visits_of(row.pk)],
            links=[LinkOut.of(link) for link in order_details.links_of(row.pk)],
            **plain,
        )


def order_sums(row: WorkOrder, *, sees_costs: bool) -> SumsOut:
    stick = yardstick(row.job_type)
    return SumsOut.of(
        sums_of(row), wanted=stick.per_hour, count=stick.known.count if stick.known else 0, sees_costs=sees_costs
    )


def visit_out(visit: Visit) -> OrderVisitOut:
    return OrderVisitOut(
        **VisitOut.of(visit).dict(), label=visit.label, part_title=visit.title,
        technician=visit.technician.name if visit.technician else None, notes=visit.notes, outcome=visit.outcome,
    )  # fmt: skip


class OrderChangeIn(Schema):
    version: int = Version
    title: Text = Field(max_length=160)
    description: Text = Field("", max_length=8000)
    asset_id: Id | None = None
    more_asset_ids: list[Id] = Field(default_factory=list, max_length=50)
    payer_id: Id | None = None
    payer_address: Text = Field("", max_length=300)
    contact_name: Text = Field("", max_length=120)
    contact_phone: Text = Field("", max_length=40)
    source: Text = Field("", max_length=40)
    billing: Literal["billable", "not billable", "contract"] = "billable"
    po_number: Text = Field("", max_length=60)
    priority: int = Field(3, ge=1, le=5)
    tags: list[Annotated[Text, Field(max_length=40)]] = Field(default_factory=list, max_length=20)
    technician_note: Text = Field("", max_length=4000)
    invoice_text: Text = Field("", max_length=4000)
    extra: dict[str, Any] = Field(default_factory=dict)

    def fields(self) -> OrderFields:
        return OrderFields(**self.dict(exclude={"version"}))


class RestoreIn(Schema):
    version: int = Version
    field: Text = Field(max_length=40)


class VisitAddIn(Schema):
    version: int = Version
    title: Text = Field(max_length=120)
    duration_seconds: int | None = Field(None, ge=60, le=14 * 86_400)
    needs: dict[str, Annotated[int, Field(ge=1, le=5)]] = Field(default_factory=dict)
    crew: int = Field(1, ge=1, le=8)


class LinkIn(Schema):
    version: int = Version
    kind: LinkKind
    first_id: Id
    second_id: Id
    least: Gap = 0
    greatest: Gap | None = None


class SpreadIn(Schema):
    version: int = Version
    days: int = Field(ge=2, le=10)


class ViewOut(Schema):
    id: int
    name: str
    shared: bool
    own: bool
    owner: str
    query: dict[str, Any]

    @classmethod
    def of(cls, row: SavedView, account_id: int) -> Self:
        return cls(
            id=row.pk, name=row.name, shared=row.shared, own=row.owner_id == account_id, owner=row.owner.name,
            query=row.query,
        )  # fmt: skip


class ViewIn(Schema):
    page: Literal["orders", "backlog", "quotes"] = "orders"
    name: Text = Field(max_length=60)
    shared: bool = False
    query: dict[str, Any]


class WorkDoneOut(Schema):
    """A finished visit in a line: when, who, what was done."""

    visit_id: int
    order_id: int
    order: str
    title: str
    finished: int | None
    technician: str | None
    outcome: str

    @classmethod
    def of(cls, visit: Visit) -> Self:
        return cls(
            visit_id=visit.pk, order_id=visit.order_id, order=visit.order.number,
            title=visit.title or visit.order.title,
            finished=int(visit.finished_at.timestamp()) if visit.finished_at else None,
            technician=visit.technician.name if visit.technician else None, outcome=visit.outcome,
        )  # fmt: skip


class OpenThereOut(Schema):
    """Something that is ordered for a site and not done yet."""

    visit_id: int
    order_id: int
    label: str
    title: str
    asset_id: int | None
    state: str
    promise: PromiseOut | None
    start: int | None
    technician: str | None

    @classmethod
    def of(cls, row: Visit) -> Self:
        promise = row.promise
        return cls(
            visit_id=row.pk, order_id=row.order_id, label=row.label, title=row.title or row.order.title,
            asset_id=row.order.asset_id, state=row.state,
            promise=PromiseOut(start=promise.start, end=promise.end) if promise else None, start=to_moment(row.start),
            technician=row.technician.name if row.technician else None,
        )  # fmt: skip


class CustomerVisitOut(Schema):
    """A visit at a customer's site in a line. Times are epoch seconds."""

    visit_id: int
    order_id: int
    number: str
    title: str
    site: str
    state: VisitState
    over: bool
    start: int | None
    promise: PromiseOut | None
    finished: int | None
    technician: str | None
    outcome: str

    @classmethod
    def of(cls, visit: Visit) -> Self:
        promise = visit.promise
        return cls(
            visit_id=visit.pk, order_id=visit.order_id, number=visit.label, title=visit.title or visit.order.title,
            site=visit.order.site.name, state=VisitState(visit.state), over=VisitState(visit.state).is_ended,
            start=to_moment(visit.start),
            promise=PromiseOut(start=promise.start, end=promise.end) if promise else None,
            finished=to_moment(visit.finished_at), technician=visit.technician.name if visit.technician else None,
            outcome=visit.outcome,
        )  # fmt: skip


def line_out(line: OrderLine) -> OrderLineOut:
    return OrderLineOut(**{name: getattr(line, name) for name in OrderLine.__slots__})
