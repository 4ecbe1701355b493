"""What is on its way at Hallam & Reyne: orders to suppliers (two of them late), requests, claims, loans, a count."""

from datetime import datetime, timedelta

from apps.company.models import Depot
from apps.orders import commands as orders
from apps.stock import commands as stock
from apps.stock.inputs import Circumstances, Found
from apps.stock.models import Fitted, Level, Part, StockPlace
from apps.supply import commands
from apps.supply.commands.purchasing import locked_order
from apps.supply.inputs import Asked, Came, CameOut, LineWanted, LoanFields, Settled
from apps.supply.models import PurchaseOrder
from core.orders import Step, VisitState
from core.roles import Role
from core.stock import CountScope, Move, MoveReason
from demo.world.week import Week
from foundation.actors import Actor
from foundation.moments import to_datetime
from foundation.outside import Outside

WHO: Actor = Outside(name="Dora Quill", role=Role.ADMINISTRATOR)
DAY = timedelta(days=1)
# By name of the part: how many, from which depot, to the site of that number (or the technician), due so many days
# from today, lent so many days ago.
LENT = (
    ("Chain hoist, 500 kg", 1, 0, "site", 3, -6, 20),
    ("Load weights, set of 10", 1, 1, "site", 11, -2, 9),
    ("Insulation tester", 1, 2, "technician", 4, -1, 15),
    ("Torque wrench, 40–200 Nm", 1, 0, "technician", 7, 12, 3),
    ("Temporary door guard", 2, 1, "site", 17, 5, 2),
)
# What is ordered: supplier, days ago, expected so many days from today, parts with quantities; how many came of each.
ORDERED = (
    ("Steyn Door Systems", 1, 2, (("Light curtain, 32 beams", 6), ("Door roller, 40 mm", 40)), ()),
    ("Abendorf Controls", 12, -5, (("Frequency inverter, 4 kW", 2), ("Relay, 24 V", 30)), (("Relay, 24 V", 20),)),
    ("Haldane Springs & Gates", 14, -3, (("Gate spring", 8), ("Bearing, 6203", 20)), ()),
    ("Norrvik Lift Parts", 25, -20, (("Guide shoe, 9 mm", 12),), (("Guide shoe, 9 mm", 12),)),
)
# What a visit on hold waits for.
AWAITED = ("Limit switch, double", 2)


def make_supply(week: Week) -> None:
    """Done by the same commands as by hand, at the times at which it was done."""
    now = to_datetime(week.now)
    depots = [stock.place_of_depot(row.pk) for row in Depot.objects.order_by("pk")]
    parts = {row.name: row for row in Part.objects.select_related("supplier")}
    _order(depots, parts, now)
    _ask(week, parts, now)
    _wait(week, parts, now)
    _lend(week, depots, parts, now)
    _claim(now)
    _count(depots, now)
    commands.propose(actor=WHO, now=now - timedelta(hours=8))


def _part(parts: dict[str, Part], name: str) -> Part:
    """By its name, or by what the price list calls it."""
    return parts.get(name) or next(row for row in parts.values() if row.item and row.item.wording == name)


def _order(depots: list[StockPlace], parts: dict[str, Part], now: datetime) -> None:
    for place, (_supplier, ago, expected, lines, came) in enumerate(ORDERED):
        made = now - ago * DAY
        wanted = [LineWanted(code=_part(parts, name).code, quantity=number) for name, number in lines]
        supplier = _part(parts, lines[0][0]).supplier
        assert supplier is not None
        order = commands.new_proposal(
            actor=WHO, now=made, supplier_id=supplier.pk, place_id=depots[place % len(depots)].pk, lines=wanted
        )
        order = commands.send_order(actor=WHO, now=made, order_id=order.pk, version=order.version)
        order.expected_on = (now + expected * DAY).date()
        order.mailed_at = made
        order.save(update_fields=["expected_on", "mailed_at"])
        if came:
            _receive(order, parts, came, now + min(expected, -2) * DAY)


def _receive(order: PurchaseOrder, parts: dict[str, Part], came: tuple[tuple[str, int], ...], at: datetime) -> None:
    lines = {row.part_id: row for row in order.lines.all()}
    rows = []
    for name, number in came:
        line = lines[_part(parts, name).pk]
        rows.append(Came(line_id=line.pk, quantity=number, price=round((line.price or 0) * 1.06)))
    version = locked_order(order.pk, order.version).version
    commands.receive(actor=WHO, now=at, order_id=order.pk, version=version, came=rows)


def _ask(week: Week, parts: dict[str, Part], now: datetime) -> None:
    """From the field, this morning."""
    people = week.people.technicians
    ahead = [row for row in week.visits if row.technician_id and row.start and row.start > now][:40:7]
    wanted = (
        ("Door drive, type M", 1, True, "The old one hums and gets hot."),
        ("Safety contact", 2, True, ""),
        ("Emergency lamp, 1 h", 1, False, "If somebody comes by."),
        ("Frequency inverter, 4 kW", 1, True, "Needed before the drive can be commissioned."),
    )
    for number, (name, quantity, must, words) in enumerate(wanted):
        visit = ahead[number] if number < len(ahead) else None
        technician = visit.technician_id if visit is not None else people[number].pk
        asked = Asked(
            code=_part(parts, name).code, quantity=quantity, technician_id=technician or people[number].pk,
            visit_id=visit.pk if visit else None, must=must, substitute_allowed=not must, words=words,
            needed_by=(visit.start if visit else None) or now + DAY,
        )  # fmt: skip
        commands.ask(actor=WHO, now=now - timedelta(minutes=35 * (number + 1)), asked=asked)


def _wait(week: Week, parts: dict[str, Part], now: datetime) -> None:
    """Work that could not be finished for want of a part, which is ordered: the visit is on hold until it comes."""
    on_site = next(row for row in week.visits if row.state == VisitState.ON_SITE)
    on_site.refresh_from_db()
    assert on_site.technician_id is not None
    name, number = AWAITED
    at = now - timedelta(minutes=12)
    note = f"{number} × {name} to be ordered"
    visit = orders.take_step(actor=WHO, now=at, visit_id=on_site.pk, version=on_site.version, step=Step.HOLD, note=note)
    asked = Asked(
        code=_part(parts, name).code, quantity=number, technician_id=on_site.technician_id, visit_id=visit.pk,
        words="The old ones no longer switch; one alone does not help.",
    )  # fmt: skip
    row = commands.ask(actor=WHO, now=at, asked=asked)
    row = commands.order_for(actor=WHO, now=at, request_id=row.pk, version=row.version)
    assert row.line is not None
    order = commands.send_order(actor=WHO, now=at, order_id=row.line.order_id, version=row.line.order.version)
    order.mailed_at = at
    order.save(update_fields=["mailed_at"])


def _lend(week: Week, depots: list[StockPlace], parts: dict[str, Part], now: datetime) -> None:
    for name, quantity, depot, whom, number, due, ago in LENT:
        part, place = parts[name], depots[depot]
        _let_lie(part, place, quantity, now - (ago + 1) * DAY)
        to_site = whom == "site"
        loan = commands.lend(
            actor=WHO, now=now - ago * DAY,
            fields=LoanFields(
                code=part.code, quantity=quantity, source_id=place.pk, due=(now + max(due, -ago) * DAY).date(),
                site_id=week.sites[number].pk if to_site else None,
                technician_id=None if to_site else week.people.technicians[number].pk,
                calibrated_until=None if to_site else (now + (40 + 30 * number) * DAY).date(),
            ),
        )  # fmt: skip
        loan.reminded_at = now - DAY if due < 0 else None
        loan.save(update_fields=["reminded_at"])


def _let_lie(part: Part, place: StockPlace, quantity: int, at: datetime) -> None:
    level = Level.objects.filter(part=part, place=place).first()
    if level is None or level.quantity < quantity:
        assert part.supplier is not None
        source = stock.place_of_supplier(part.supplier_id or 0)
        one = Move(part=part.pk, quantity=quantity, source=source.pk, target=place.pk, reason=MoveReason.RECEIPT)
        stock.move(actor=WHO, now=at, moves=[one], how=Circumstances(note="tools"))


def _claim(now: datetime) -> None:
    """Four parts that came out under warranty, each a step further."""
    rows = Fitted.objects.filter(removed_at=None, part__supplier__isnull=False, warranty_until__gt=now.date(),
                                 part__tracking="serial number").select_related("part")  # fmt: skip
    reasons = ("hums after two weeks", "trips without load", "dead on arrival", "display stays dark")
    for number, (fitted, because) in enumerate(zip(rows.order_by("-since")[:4], reasons, strict=False)):
        out = CameOut(
            code=fitted.part.code, quantity=1, because=because, what="defective", site_id=fitted.site_id,
            asset_id=fitted.asset_id, serial=fitted.serial,
        )  # fmt: skip
        claim = commands.take_back(actor=WHO, now=now - (9 - number) * DAY, out=out)
        if claim is None or number == 0:
            continue
        claim = commands.send_back(actor=WHO, now=now - (7 - number) * DAY, claim_id=claim.pk, version=claim.version)
        if number == 3:
            commands.settle(
                actor=WHO, now=now - 2 * DAY, claim_id=claim.pk, version=claim.version,
                how=Settled(state="credited", credit=fitted.part.cost or 1, says="Credit note in the post"),
            )  # fmt: skip


def _count(depots: list[StockPlace], now: datetime) -> None:
    """One shelf has been counted with a difference, and somebody else has to look at it: two of the dearest part on a
    shelf where nothing has numbers of its own are missing."""
    place, at = depots[1], now - timedelta(hours=2)
    own = Level.objects.filter(place=place).exclude(shelf="")
    numbered = own.exclude(part__tracking="plain").values("shelf")
    level = own.filter(quantity__gt=1).exclude(shelf__in=numbered).order_by("-part__cost", "part_id")[:1].get()
    sheet = stock.begin_count(actor=WHO, now=at, place_id=place.pk, scope=CountScope.SHELF, shelf=level.shelf)
    found = [
        Found(code=line.part.code, quantity=max(0, line.on_books - 2 * (line.part_id == level.part_id)))
        for line in sheet.lines.select_related("part")
    ]
    sheet = stock.enter_found(actor=WHO, now=at, sheet_id=sheet.pk, found=found)
    stock.finish_count(actor=WHO, now=at + timedelta(minutes=20), sheet_id=sheet.pk, version=sheet.version)
