"""Finding customers as one types: by name, phone, e-mail, address, contact or serial number.

Each customer, contact, site and asset has a row of folded text (`Findable`). Words of three letters and more are found
anywhere in it (trigrams), shorter ones at the beginning of a word (full text); misspelt ones by likeness.
"""

import unicodedata
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from django.contrib.postgres.search import SearchQuery, TrigramWordSimilarity
from django.db.models import Q

from apps.company.queries import settings
from apps.customers.models import Asset, Contact, Customer, Findable, Site
from core.basics import digits_of, phone_key

LEAST_LETTERS = 2
# Looked at before the best are chosen: enough for any name that is typed further than two letters.
LOOKED_AT = 240
LEAST_LIKENESS = 0.5


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
        rows = _alike(fold(text))
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
        if len(word) >= 3 or not word.isalnum():
            query &= Q(text__contains=word)
        else:
            query &= Q(vector=SearchQuery(f"{word}:*", search_type="raw", config="simple"))
    return query


def _rows(query: Q) -> list[Findable]:
    rows = Findable.objects.filter(query).select_related("customer", "site__area", "asset", "contact")
    return list(rows.defer("site__area__polygon")[:LOOKED_AT])


def _alike(text: str) -> list[Findable]:
    """Nothing holds the words: what is written nearly like that."""
    if len(text) < 4:
        return []
    rows = Findable.objects.filter(text__trigram_word_similar=text).annotate(
        likeness=TrigramWordSimilarity(text, "text")
    )
    found = rows.filter(likeness__gte=LEAST_LIKENESS).order_by("-likeness")
    return list(found.select_related("customer", "site__area", "asset", "contact").defer("site__area__polygon")[:24])


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
    Findable.objects.bulk_create(_texts(alive), batch_size=2000)


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
