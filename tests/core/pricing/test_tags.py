"""What documents come to by the tags of their lines."""

from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from core.pricing import ByTag, Category, Discount, Document, Line, TagSum, Taxed, by_tag, totals

TAX = Taxed(category=Category.STANDARD, percent=Decimal(20))


def line(price, quantity=1, **more):
    return Line(wording="Something", quantity=Decimal(quantity), unit_price=price, tax=TAX, **more)


def test_lines_of_a_tag_are_counted_together_and_what_is_off_the_whole_stands_for_itself():
    documents = [
        Document(
            lines=[line(1_000, 2, tag="warranty"), line(500, tag="warranty"), line(300)],
            discounts=[Discount(name="Regular", percent=Decimal(10))],
        ),
        Document(lines=[line(200), line(900, optional=True, tag="crane")]),
    ]
    assert by_tag(documents) == ByTag(
        tags=(
            TagSum(tag="warranty", documents=1, lines=2, net=2_500),
            TagSum(tag="", documents=2, lines=2, net=500),
        ),
        documents=2, off=280, net=2_720,
    )  # fmt: skip


LINES = st.builds(
    line,
    st.integers(-5_000, 50_000),
    st.decimals(Decimal("0.1"), 20, places=1),
    tag=st.sampled_from(["", "warranty", "crane"]),
    optional=st.booleans(),
)
DISCOUNTS = st.builds(Discount, name=st.just("Regular"), percent=st.integers(1, 100).map(Decimal))
DOCUMENTS = st.builds(Document, lines=st.lists(LINES, max_size=6), discounts=st.lists(DISCOUNTS, max_size=2))


@given(st.lists(DOCUMENTS, max_size=5))
def test_tags_less_discounts_are_the_totals_of_the_documents(documents):
    found = by_tag(documents)
    assert found.net == sum(totals(document).net for document in documents)
    assert sum(row.net for row in found.tags) - found.off == found.net
    assert len({row.tag for row in found.tags}) == len(found.tags)
