"""The table of roles. Every command and every endpoint names one action and asks here."""

from enum import StrEnum


class Role(StrEnum):
    ADMINISTRATOR = "administrator"
    MANAGER = "manager"
    DISPATCHER = "dispatcher"
    INTAKE = "intake"
    TECHNICIAN = "technician"
    REVIEWER = "reviewer"
    # Put together by the company; its actions stand with the account.
    OWN = "own"


class Action(StrEnum):
    USE = "use"  # be signed in: own session, company facts, live changes
    SEE_MAP = "see_map"
    SEE_CUSTOMERS = "see_customers"
    CHANGE_CUSTOMERS = "change_customers"
    TAKE_REQUESTS = "take_requests"
    MAKE_ORDERS = "make_orders"
    SEE_ORDERS = "see_orders"
    CHANGE_VISITS = "change_visits"
    SEE_BOARD = "see_board"
    PLAN = "plan"
    EDIT_PLAYBOOKS = "edit_playbooks"
    REVIEW = "review"
    WORK_IN_FIELD = "work_in_field"
    SEE_MESSAGES = "see_messages"
    IMPORT = "import"
    OFFER_TIMES = "offer_times"
    MAKE_QUOTES = "make_quotes"
    SEND_QUOTES = "send_quotes"
    ALLOW_DISCOUNTS = "allow_discounts"
    SEE_MARGIN = "see_margin"
    SEE_STOCK = "see_stock"
    MOVE_STOCK = "move_stock"
    ORDER_PARTS = "order_parts"
    CHANGE_SETTINGS = "change_settings"
    MANAGE_ACCOUNTS = "manage_accounts"


_SEE = {Action.USE, Action.SEE_MAP, Action.SEE_CUSTOMERS, Action.SEE_ORDERS, Action.SEE_STOCK}
_INTAKE = _SEE | {
    Action.CHANGE_CUSTOMERS,
    Action.TAKE_REQUESTS,
    Action.MAKE_ORDERS,
    Action.OFFER_TIMES,
    Action.MAKE_QUOTES,
    Action.SEND_QUOTES,
}
_DISPATCH = _INTAKE | {
    Action.CHANGE_VISITS,
    Action.SEE_BOARD,
    Action.PLAN,
    Action.EDIT_PLAYBOOKS,
    Action.SEE_MESSAGES,
    Action.IMPORT,
    Action.SEE_MARGIN,
    Action.MOVE_STOCK,
    Action.ORDER_PARTS,
}
_MANAGE = _DISPATCH | {Action.REVIEW, Action.CHANGE_SETTINGS, Action.ALLOW_DISCOUNTS}

ALLOWED: dict[Role, frozenset[Action]] = {
    Role.ADMINISTRATOR: frozenset(_MANAGE | {Action.MANAGE_ACCOUNTS}),
    # Sets the company up, and does not decide who may come in.
    Role.MANAGER: frozenset(_MANAGE),
    Role.DISPATCHER: frozenset(_DISPATCH),
    # Intake sees the board, to answer "when are they coming?", and does not move anything on it.
    Role.INTAKE: frozenset(_INTAKE | {Action.SEE_BOARD, Action.SEE_MESSAGES}),
    Role.TECHNICIAN: frozenset({Action.USE, Action.SEE_MAP, Action.WORK_IN_FIELD}),
    Role.REVIEWER: frozenset(_SEE | {Action.SEE_BOARD, Action.SEE_MESSAGES, Action.REVIEW, Action.SEE_MARGIN}),
}

DUTIES: dict[Role, str] = {
    Role.ADMINISTRATOR: "may do everything in the office",
    Role.MANAGER: "sees, plans and sets up everything but accounts",
    Role.DISPATCHER: "plans the day on the board",
    Role.INTAKE: "takes the calls",
    Role.TECHNICIAN: "works from a phone",
    Role.REVIEWER: "checks what was done",
}

# Each action as the end of a sentence that begins with "may"; being signed in goes without saying.
WORDS: dict[Action, str] = {
    Action.SEE_CUSTOMERS: "see customers, sites and equipment",
    Action.CHANGE_CUSTOMERS: "add and change customers, sites and equipment",
    Action.TAKE_REQUESTS: "take and answer requests",
    Action.OFFER_TIMES: "offer and promise times",
    Action.SEE_ORDERS: "see work orders",
    Action.MAKE_ORDERS: "make work orders",
    Action.MAKE_QUOTES: "write quotes",
    Action.SEND_QUOTES: "send quotes to customers and take them back",
    Action.ALLOW_DISCOUNTS: "agree to discounts that others may not give by themselves",
    Action.SEE_MARGIN: "see what things cost us and what is left",
    Action.CHANGE_VISITS: "change work orders and visits",
    Action.SEE_BOARD: "see the board",
    Action.PLAN: "place, move and send visits, and note absences",
    Action.EDIT_PLAYBOOKS: "change how plans are made",
    Action.REVIEW: "check what was done and mark it as reviewed",
    Action.SEE_MESSAGES: "see messages to customers",
    Action.IMPORT: "bring in files",
    Action.SEE_STOCK: "see parts and where they lie",
    Action.MOVE_STOCK: "book, count and hand out parts",
    Action.ORDER_PARTS: "order parts from suppliers",
    Action.SEE_MAP: "see the map",
    Action.WORK_IN_FIELD: "work their own visits from the phone",
    Action.CHANGE_SETTINGS: "change the company's settings, people, areas and job types",
    Action.MANAGE_ACCOUNTS: "invite people, change their roles and let them go",
}
