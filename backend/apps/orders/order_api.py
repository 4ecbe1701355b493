"""HTTP: work orders - the list, one order, its sequence."""

from typing import Literal

from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router, Status

from apps.company.queries import tag_names
from apps.customers.schemas import NoteIn
from apps.orders import commands, listing, order_details
from apps.orders.by_tag import orders_by_tag
from apps.orders.exporting import as_csv
from apps.orders.order_schemas import (
    ByTagIn,
    ByTagOut,
    CustomerVisitOut,
    ExportIn,
    LinkIn,
    ListIn,
    OpenThereOut,
    OrderChangeIn,
    OrderDetailOut,
    OrdersOut,
    RestoreIn,
    SpreadIn,
    ViewIn,
    ViewOut,
    VisitAddIn,
    WorkDoneOut,
    WorkIn,
    line_out,
)
from apps.orders.printing import work_order_pdf
from apps.orders.schemas import VersionIn
from core.roles import Action
from foundation import audit, clock
from foundation.access import Needs, actor_of
from foundation.actors import may
from foundation.audit_schemas import EntriesOut
from foundation.pages import Cursor
from foundation.schemas import Key

router = Router()


def _detail(request: HttpRequest, order_id: int) -> OrderDetailOut:
    sees = may(actor_of(request), Action.SEE_MARGIN)
    return OrderDetailOut.of(order_details.order(order_id), sees_costs=sees)


@router.post("/orders/list", response=OrdersOut, auth=Needs(Action.SEE_ORDERS))
def listed(request: HttpRequest, body: ListIn) -> OrdersOut:
    """A page of orders. By POST, because filters can be many; nothing changes."""
    found = listing.orders(body.filters.filters(), now=clock.now(), sort=body.sort, cursor=body.cursor)
    return OrdersOut(
        total=found.total, next=found.next, rows=[line_out(row) for row in found.rows], columns=listing.column_titles()
    )


@router.post("/orders/by-tag", response=ByTagOut, auth=Needs(Action.SEE_ORDERS))
def by_tag(request: HttpRequest, body: ByTagIn) -> ByTagOut:
    """What the orders that are shown come to, by the tags of their lines. Nothing changes."""
    found = orders_by_tag(body.filters.filters(), now=clock.now())
    return ByTagOut.of(found, tag_names())


@router.post("/orders/export", response={200: bytes}, auth=Needs(Action.SEE_ORDERS))
def export(request: HttpRequest, body: ExportIn) -> StreamingHttpResponse:
    """The orders that are shown, in the columns that are shown, as CSV."""
    rows = listing.every_order(body.filters.filters(), now=clock.now(), sort=body.sort)
    answer = StreamingHttpResponse(as_csv(rows, body.columns), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="orders.csv"'
    return answer


@router.get("/orders/views", response=list[ViewOut], auth=Needs(Action.SEE_ORDERS))
def views(request: HttpRequest, page: Literal["orders", "backlog", "quotes"] = "orders") -> list[ViewOut]:
    """Saved views of a list: one's own and the shared ones."""
    me = actor_of(request).id
    return [ViewOut.of(row, me) for row in order_details.saved_views(page, account_id=me)]


@router.post("/orders/views", response={201: ViewOut}, auth=Needs(Action.SEE_ORDERS))
def keep_view(request: HttpRequest, body: ViewIn) -> Status[ViewOut]:
    """Keep filters, columns and order under a name."""
    actor = actor_of(request)
    row = commands.keep_view(actor=actor, page=body.page, name=body.name, shared=body.shared, query=body.query)
    return Status(201, ViewOut.of(row, actor.id))


@router.delete("/orders/views/{int:view_id}", response={204: None}, auth=Needs(Action.SEE_ORDERS))
def remove_view(request: HttpRequest, view_id: Key) -> Status[None]:
    """Remove a view of one's own."""
    commands.remove_view(actor=actor_of(request), view_id=view_id)
    return Status(204, None)


@router.get("/orders/done/asset/{int:asset_id}", response=list[WorkDoneOut], auth=Needs(Action.SEE_ORDERS))
def done_on_asset(request: HttpRequest, asset_id: Key) -> list[WorkDoneOut]:
    """What was done on an asset lately."""
    return [WorkDoneOut.of(visit) for visit in order_details.work_done_on(asset_id)]


@router.get("/orders/open/site/{int:site_id}", response=list[OpenThereOut], auth=Needs(Action.SEE_ORDERS))
def open_at_site(request: HttpRequest, site_id: Key) -> list[OpenThereOut]:
    """What is ordered for a site and not done yet."""
    return [OpenThereOut.of(visit) for visit in order_details.open_at(site_id)]


@router.get(
    "/orders/of/customer/{int:customer_id}/visits", response=list[CustomerVisitOut], auth=Needs(Action.SEE_ORDERS)
)
def visits_at_customer(request: HttpRequest, customer_id: Key) -> list[CustomerVisitOut]:
    """A customer's visits: those to come, then the past ones."""
    return [CustomerVisitOut.of(visit) for visit in order_details.visits_at(customer_id)]


@router.get("/orders/{int:order_id}", response=OrderDetailOut, auth=Needs(Action.SEE_ORDERS))
def order(request: HttpRequest, order_id: Key) -> OrderDetailOut:
    """All about an order: what differs from its job type, its visits and links."""
    return _detail(request, order_id)


@router.put("/orders/{int:order_id}", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def change_order(request: HttpRequest, order_id: Key, body: OrderChangeIn) -> OrderDetailOut:
    """Change an order."""
    commands.change_order(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, fields=body.fields()
    )
    return _detail(request, order_id)


@router.put("/orders/{int:order_id}/work", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def change_work(request: HttpRequest, order_id: Key, body: WorkIn) -> OrderDetailOut:
    """Give an order tasks and a checklist of its own."""
    commands.change_work(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, tasks=body.tasks,
        questions=body.questions,
    )  # fmt: skip
    return _detail(request, order_id)


@router.post("/orders/{int:order_id}/restore", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def restore(request: HttpRequest, order_id: Key, body: RestoreIn) -> OrderDetailOut:
    """Set one overridden value back to what the job type says."""
    commands.restore(actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, name=body.field)
    return _detail(request, order_id)


@router.get("/orders/{int:order_id}/timeline", response=EntriesOut, auth=Needs(Action.SEE_ORDERS))
def timeline(request: HttpRequest, order_id: Key, cursor: Cursor = "") -> EntriesOut:
    """Everything that happened, who, when, from what to what; notes inside it."""
    return EntriesOut.of(order_details.timeline(order_details.order(order_id), cursor=cursor))


@router.post("/orders/{int:order_id}/notes", response={201: None}, auth=Needs(Action.SEE_ORDERS))
def note(request: HttpRequest, order_id: Key, body: NoteIn) -> Status[None]:
    """A note on an order."""
    order_details.order(order_id)
    audit.note(actor=actor_of(request), now=clock.now(), entity="order", entity_id=order_id, text=body.text)
    return Status(201, None)


@router.get("/orders/{int:order_id}/pdf", response={200: bytes}, auth=Needs(Action.SEE_ORDERS))
def pdf(request: HttpRequest, order_id: Key) -> HttpResponse:
    """The work order on paper."""
    number, content = work_order_pdf(order_id)
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{number}.pdf"'
    return answer


@router.post("/orders/{int:order_id}/visits", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def add_visit(request: HttpRequest, order_id: Key, body: VisitAddIn) -> OrderDetailOut:
    """Another visit of the order."""
    commands.add_visit(actor=actor_of(request), now=clock.now(), order_id=order_id, **body.dict())
    return _detail(request, order_id)


@router.post(
    "/orders/{int:order_id}/visits/{int:visit_id}/remove", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS)
)
def remove_visit(request: HttpRequest, order_id: Key, visit_id: Key, body: VersionIn) -> OrderDetailOut:
    """Take a visit off the order that nobody was told of."""
    commands.remove_visit(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, visit_id=visit_id
    )
    return _detail(request, order_id)


@router.post(
    "/orders/{int:order_id}/visits/{int:visit_id}/spread", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS)
)
def spread(request: HttpRequest, order_id: Key, visit_id: Key, body: SpreadIn) -> OrderDetailOut:
    """Make one visit several on following days by the same technicians."""
    commands.spread_over_days(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, visit_id=visit_id,
        days=body.days,
    )  # fmt: skip
    return _detail(request, order_id)


@router.post("/orders/{int:order_id}/links", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def link_visits(request: HttpRequest, order_id: Key, body: LinkIn) -> OrderDetailOut:
    """Tie two visits of the order; refused with the reason where that cannot be."""
    commands.link_visits(actor=actor_of(request), now=clock.now(), order_id=order_id, **body.dict())
    return _detail(request, order_id)


@router.post("/orders/{int:order_id}/links/{int:link_id}/turn", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS))
def turn_link(request: HttpRequest, order_id: Key, link_id: Key, body: VersionIn) -> OrderDetailOut:
    """Turn a link round."""
    commands.turn_link(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, link_id=link_id
    )
    return _detail(request, order_id)


@router.post(
    "/orders/{int:order_id}/links/{int:link_id}/remove", response=OrderDetailOut, auth=Needs(Action.MAKE_ORDERS)
)
def unlink_visits(request: HttpRequest, order_id: Key, link_id: Key, body: VersionIn) -> OrderDetailOut:
    """Undo a link."""
    commands.unlink_visits(
        actor=actor_of(request), now=clock.now(), order_id=order_id, version=body.version, link_id=link_id
    )
    return _detail(request, order_id)
