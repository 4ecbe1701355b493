"""What a new version changes, in sentences for whoever has read the one before."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from core.pricing import Line
from core.quotes.offers import Option

MOST_SENTENCES = 12


@dataclass(frozen=True, kw_only=True)
class Terms:
    """What holds besides the lines. `texts` are the words by what they are called; `valid_until` is the last day."""

    valid_until: date
    deposit: int = 0
    texts: tuple[tuple[str, str], ...] = ()


def changes(
    before: Sequence[Option], after: Sequence[Option], *, money: Callable[[int], str],
    terms: tuple[Terms, Terms] | None = None,
) -> list[str]:  # fmt: skip
    """What became of the options, each line of them, and the terms; at most so many sentences, then how many more."""
    old, new = {option.key: option for option in before}, {option.key: option for option in after}
    found: list[str] = [f"“{option.name}” is no longer offered" for key, option in old.items() if key not in new]
    for key, option in new.items():
        if key not in old:
            found.append(f"“{option.name}” is new")
            continue
        where = f"{option.name}: " if len(new) > 1 and option.name else ""
        found += [f"{where}{sentence}" for sentence in _of_option(old[key], option, money)]
    if terms is not None:
        found += _of_terms(*terms, money)
    if len(found) > MOST_SENTENCES:
        return [*found[: MOST_SENTENCES - 1], f"and {len(found) - MOST_SENTENCES + 1} more"]
    return found


def _of_option(before: Option, after: Option, money: Callable[[int], str]) -> Iterable[str]:
    if before.name != after.name:
        yield f"called “{after.name}” instead of “{before.name}”"
    old, new = {line.key: line for line in before.lines}, {line.key: line for line in after.lines}
    yield from (f"without {line.wording}" for key, line in old.items() if key not in new)
    for key, line in new.items():
        if key not in old:
            yield f"with {_many(line)}{line.wording}, {money(line.net)}"
        else:
            yield from _of_line(old[key], line, money)
    one, two = before.totals().gross, after.totals().gross
    if one != two:
        yield f"{money(two)} with tax instead of {money(one)}"


def _of_line(before: Line, after: Line, money: Callable[[int], str]) -> Iterable[str]:
    if before.wording != after.wording:
        yield f"{before.wording} is now {after.wording}"
    if before.quantity != after.quantity:
        yield f"{after.wording}: {_plain(after.quantity)} instead of {_plain(before.quantity)}"
    if before.unit_price != after.unit_price:
        yield f"{after.wording}: {money(after.unit_price)} each instead of {money(before.unit_price)}"
    elif before.off != after.off:
        yield f"{after.wording}: {money(after.off)} off instead of {money(before.off)}"
    if before.optional != after.optional:
        yield f"{after.wording} {'may be chosen' if after.optional else 'is part of it'}"


def _of_terms(before: Terms, after: Terms, money: Callable[[int], str]) -> Iterable[str]:
    if before.valid_until != after.valid_until:
        yield f"valid until {after.valid_until.isoformat()} instead of {before.valid_until.isoformat()}"
    if before.deposit != after.deposit:
        yield f"a deposit of {money(after.deposit)} instead of {money(before.deposit)}"
    was = dict(before.texts)
    yield from (f"other words: {name}" for name, text in after.texts if was.get(name, "") != text)


def _many(line: Line) -> str:
    return "" if line.quantity == 1 else f"{_plain(line.quantity)} × "


def _plain(quantity: Decimal) -> str:
    return f"{quantity.normalize():f}"
