"""Finding customers as one types: by name, phone, e-mail, address, contact or serial number.

Each customer, contact, site and asset has a row of folded text (`Findable`). Words of three letters and more are found
anywhere in it (trigrams), shorter ones at the beginning of a word (full text); misspelt ones by the words
that were most likely meant.
"""

import re
import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import reduce
from operator import or_
from threading import Lock

from django.contrib.postgres.search import SearchQuery
from django.db.models import Q

from apps.company.queries import settings
from apps.customers.models import Asset, Contact, Customer, Findable, FindableWord, Site
from core.basics import digits_of, phone_key
from core.customers.spelling import Vocabulary

LEAST_LETTERS = 2
# Looked at before the best are chosen: enough for any name that is typed further than two letters.
LOOKED_AT = 240
# More words than this narrow nothing down any further.
MOST_WORDS = 5


@dataclass(frozen=True, kw_only=True)
class Hit:
    """A customer found, with the site and asset that were meant, and why it was found."""

    customer: Customer
    site: Site | None
    asset: Asset | None
    because: str


def fold(text: str) -> str:
    """Small letters without accents: what people type and what is written meet there."""
    plain = unicodedata.normalize("NFKD", text.casefold())
    return " ".join("".join(letter for letter in plain if not unicodedata.combining(letter)).split())


def find(text: str, *, limit: int = 12) -> list[Hit]:
    """Customers that hold every word typed, the best first."""
    words = fold(text).split()
    if sum(len(word) for word in words) < LEAST_LETTERS:
        return []
    rows = _rows(_phone(text) or _all(words))
    if not rows and not _phone(text):
        return list(_once(_alike(fold(text))))[:limit]  # in the order of nearness
    rows.sort(key=lambda row: _rank(row, words))
    return list(_once(rows))[:limit]


def _phone(text: str) -> Q | None:
    """What was typed as a phone number, if it is one."""
    digits = digits_of(text)
    letters = sum(letter.isalpha() for letter in text)
    if len(digits) < 4 or letters:
        return None
    found = Q(text__contains=digits)
    key = digits_of(phone_key(text, settings().phone_country))
    return found | Q(text__contains=key) if key and key != digits else found


def _all(words: list[str]) -> Q:
    query = Q()
    for word in words:
        query &= _one(word)
    return query


def _one(word: str) -> Q:
    if len(word) >= 3 or not word.isalnum():
        return Q(text__contains=word)
    return Q(vector=SearchQuery(f"{word}:*", search_type="raw", config="simple"))


def _rows(query: Q) -> list[Findable]:
    rows = Findable.objects.filter(query).select_related("customer", "site__area", "asset", "contact")
    return list(rows.defer("site__area__polygon")[:LOOKED_AT])


def _alike(text: str) -> list[Findable]:
    """Nothing holds the words: what holds the words that were most likely meant, the nearest first."""
    if len(text) < 3:
        return []
    meant = [vocabulary().meant_by(word) for word in text.split()[:MOST_WORDS]]
    if not all(meant):
        return []
    query = Q()
    for candidates in meant:
        query &= reduce(or_, (_one(word) for word in candidates))
    rows = _rows(query)
    near = {row.pk: sum(_nearness(row, candidates) for candidates in meant) for row in rows}
    return sorted(rows, key=lambda row: (-near[row.pk], len(row.text), row.pk))[:24]


def _nearness(row: Findable, candidates: dict[str, float]) -> float:
    """How near the row's text comes to one typed word."""
    return max((near for word, near in candidates.items() if word in row.text), default=0.0)


_vocabulary, _upto, _learning = Vocabulary(), 0, Lock()


def vocabulary() -> Vocabulary:
    """The words of everything that can be found, kept by the process; what was added since is added."""
    global _upto, _vocabulary
    with _learning:
        newest = FindableWord.objects.order_by("-id").values_list("id", flat=True).first() or 0
        if newest < _upto:  # another database, or all was thrown away
            _vocabulary, _upto = Vocabulary(), 0
        if newest > _upto:
            rows = FindableWord.objects.filter(id__gt=_upto).values_list("word", flat=True)
            _vocabulary.add(list(rows))
            _upto = newest
        return _vocabulary


def _rank(row: Findable, words: list[str]) -> tuple[bool, bool, int, str]:
    """Names that begin like that first; a site with its serial number before its customer alone."""
    name = fold(row.customer.name)
    begins = not any(name.startswith(word) for word in words)
    serial = row.asset is not None and any(word in fold(row.asset.serial) for word in words if len(word) > 2)
    kind = 0 if row.site_id and not row.asset_id else 1 if row.contact_id else 2 if row.asset_id else 3
    return (not serial, begins, kind, name)


def _once(rows: Iterable[Findable]) -> Iterator[Hit]:
    """One hit for each customer and site, by the best of its rows."""
    seen: set[tuple[int, int | None]] = set()
    with_site: set[int] = set()
    for row in rows:
        key = (row.customer_id, row.site_id)
        if key in seen or (row.site_id is None and row.contact_id is None and row.customer_id in with_site):
            continue
        seen.add(key)
        if row.site_id:
            with_site.add(row.customer_id)
        yield Hit(customer=row.customer, site=row.site, asset=row.asset, because=_because(row))


def _because(row: Findable) -> str:
    if row.asset is not None:
        return f"asset {row.asset.serial or row.asset.words}"
    if row.contact is not None:
        return " · ".join(filter(None, [f"contact {row.contact.name}", row.contact.phone]))
    if row.site is not None:
        return row.site.address
    return row.customer.phone or row.customer.email


def make_findable(customer_ids: Iterable[int]) -> None:
    """Write the rows of these customers anew. To be called by every command that changes what they are found by."""
    ids = sorted(set(customer_ids))
    Findable.objects.filter(customer_id__in=ids).delete()
    alive = list(Customer.objects.filter(pk__in=ids, merged_into__isnull=True))
    made = Findable.objects.bulk_create(_texts(alive), batch_size=2000)
    words = {word for row in made for word in re.findall(r"[^\W\d_]{3,80}", row.text)}
    known = set(FindableWord.objects.filter(word__in=words).values_list("word", flat=True))
    new = (FindableWord(word=word) for word in sorted(words - known))
    FindableWord.objects.bulk_create(new, batch_size=2000, ignore_conflicts=True)


def _texts(customers: list[Customer]) -> Iterator[Findable]:
    ids = [customer.pk for customer in customers]
    names = {customer.pk: customer.name for customer in customers}
    for customer in customers:
        own = [
            customer.name,
            customer.email,
            *_phones(customer.phone_key, customer.phone),
            *map(str, customer.extra.values()),
        ]
        yield Findable(customer_id=customer.pk, text=fold(" ".join(own)))
    for contact in Contact.objects.filter(customer_id__in=ids):
        own = [contact.name, contact.role, contact.email, *_phones(contact.phone_key, contact.phone)]
        text = fold(" ".join([names[contact.customer_id], *own]))
        yield Findable(customer_id=contact.customer_id, site_id=contact.site_id, contact=contact, text=text)
    for site in Site.objects.filter(customer_id__in=ids):
        own = [names[site.customer_id], site.name, site.address, *map(str, site.extra.values())]
        yield Findable(customer_id=site.customer_id, site=site, text=fold(" ".join(own)))
    for asset in Asset.objects.filter(site__customer_id__in=ids).select_related("site").exclude(serial=""):
        own = [names[asset.site.customer_id], asset.serial, asset.make, asset.model, *map(str, asset.extra.values())]
        text = fold(" ".join(own))
        yield Findable(customer_id=asset.site.customer_id, site_id=asset.site_id, asset=asset, text=text)


def _phones(key: str, written: str) -> list[str]:
    digits = digits_of(written)
    return [digits_of(key), *([digits] if digits and digits not in key else [])]
