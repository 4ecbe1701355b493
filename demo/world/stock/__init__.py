"""The stock of Hallam & Reyne: about 350 parts in three depots and 24 vans, and a year of movements that made it so."""

from demo.world.stock.books import Books
from demo.world.stock.parts import make_parts
from demo.world.stock.vans import fill_vans
from demo.world.stock.year import live_through
from demo.world.week import Week

__all__ = ["Books", "make_parts", "make_stock"]


def make_stock(week: Week) -> Books:
    """Live through a year of movements, and fill the vans for what is planned."""
    books = Books.opened(week)
    live_through(week, books)
    fill_vans(week, books)
    books.close()
    return books
