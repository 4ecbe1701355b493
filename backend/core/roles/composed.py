"""Roles a company puts together itself, from the actions of the table."""

from collections.abc import Iterable

from core.roles.table import WORDS, Action

_A = Action

# What may be ticked. Being signed in goes without saying; who manages accounts could give themselves anything, so that
# stays with administrators.
COMPOSABLE = tuple(action for action in WORDS if action is not Action.MANAGE_ACCOUNTS)

# What is of no use alone, or leads to pages that show more, and what it brings along.
NEEDS: dict[Action, frozenset[Action]] = {
    _A.CHANGE_CUSTOMERS: frozenset({_A.SEE_CUSTOMERS}),
    _A.TAKE_REQUESTS: frozenset({_A.SEE_CUSTOMERS, _A.SEE_ORDERS}),
    _A.OFFER_TIMES: frozenset({_A.SEE_ORDERS}),
    _A.MAKE_ORDERS: frozenset({_A.SEE_ORDERS, _A.SEE_CUSTOMERS}),
    _A.CHANGE_VISITS: frozenset({_A.SEE_ORDERS}),
    _A.SEE_ORDERS: frozenset({_A.SEE_CUSTOMERS}),
    _A.SEE_CUSTOMERS: frozenset({_A.SEE_MAP}),
    _A.SEE_BOARD: frozenset({_A.SEE_ORDERS}),
    _A.PLAN: frozenset({_A.SEE_BOARD, _A.CHANGE_VISITS}),
    _A.EDIT_PLAYBOOKS: frozenset({_A.PLAN}),
    _A.REVIEW: frozenset({_A.SEE_ORDERS}),
    _A.SEE_MESSAGES: frozenset({_A.SEE_ORDERS}),
    _A.IMPORT: frozenset({_A.CHANGE_CUSTOMERS, _A.MAKE_ORDERS}),
    _A.MAKE_QUOTES: frozenset({_A.SEE_ORDERS}),
    _A.SEND_QUOTES: frozenset({_A.MAKE_QUOTES}),
    _A.ALLOW_DISCOUNTS: frozenset({_A.SEE_ORDERS}),
    _A.SEE_MARGIN: frozenset({_A.SEE_ORDERS}),
    # What is short is short for visits.
    _A.SEE_STOCK: frozenset({_A.SEE_ORDERS}),
    _A.MOVE_STOCK: frozenset({_A.SEE_STOCK}),
    # What is bought has a price.
    _A.ORDER_PARTS: frozenset({_A.MOVE_STOCK, _A.SEE_MARGIN}),
    # The price list says what things cost us.
    _A.CHANGE_SETTINGS: frozenset({_A.SEE_ORDERS, _A.SEE_MARGIN}),
    _A.WORK_IN_FIELD: frozenset({_A.SEE_MAP}),
}

# What holds for the whole company at once: a role that reaches only a part of it has none of these.
WHOLE_COMPANY = frozenset({_A.CHANGE_SETTINGS, _A.EDIT_PLAYBOOKS, _A.IMPORT, _A.ORDER_PARTS})


def composed(ticked: Iterable[Action]) -> frozenset[Action]:
    """The actions of a role for which these are ticked, with all they need.

    Raises
    ------
    ValueError
        For an action that no company gives away.
    """
    wanted = set(ticked) - {Action.USE}
    if foreign := wanted - set(COMPOSABLE):
        raise ValueError(f"{sorted(foreign)[0]} cannot be part of a role of one's own")
    found = {Action.USE}
    while wanted:
        action = wanted.pop()
        found.add(action)
        wanted |= NEEDS.get(action, frozenset()) - found
    return frozenset(found)
