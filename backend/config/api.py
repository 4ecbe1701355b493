"""The HTTP API: one router per capability."""

from apps.accounts.api import router as accounts
from apps.appointments.api import router as appointments
from apps.board.api import router as board
from apps.board.day_api import router as days
from apps.board.days_off_api import router as days_off
from apps.board.office_api import router as office_reminders
from apps.board.placing_api import router as placing
from apps.catalogue.api import router as catalogue
from apps.company.api import router as company
from apps.customers.api import router as customers
from apps.customers.file_api import router as customer_files
from apps.daylogs.api import router as daylogs
from apps.field.api import router as field
from apps.intake.api import router as intake
from apps.messages.api import router as messages
from apps.open_work.api import router as open_work
from apps.orders.api import router as orders
from apps.orders.order_api import router as work_orders
from apps.orders.pricing_api import router as order_prices
from apps.people.api import router as people
from apps.people.api import session
from apps.pricing.api import router as pricing
from apps.quotes.api import router as quotes
from apps.quotes.field_api import router as field_quotes
from apps.quotes.public_api import router as public_quotes
from apps.reports.api import router as reports
from apps.roads.api import router as roads
from apps.scheduling.api import router as scheduling
from apps.set_up.api import router as set_up
from apps.stock.api import router as stock
from apps.stock.count_api import router as stock_counts
from apps.supply.api import router as supply
from apps.supply.purchase_api import router as purchases
from foundation.api import router as foundation
from foundation.document import DocumentedAPI
from foundation.file_api import router as files
from foundation.problems import add_handlers

api = DocumentedAPI(
    title="Iron Relay",
    version="1",
    description="Requests, work orders, the board, the phone. See docs/api.md.",
    docs_url=None,
    urls_namespace="api",
)
add_handlers(api)
api.add_router("", foundation, tags=["foundation"])
api.add_router("", files, tags=["files"])
api.add_router("", session, tags=["session"])
api.add_router("", company, tags=["company"])
api.add_router("", roads, tags=["roads"])
api.add_router("", people, tags=["people"])
api.add_router("", accounts, tags=["accounts"])
api.add_router("", customers, tags=["customers"])
api.add_router("", customer_files, tags=["customers"])
api.add_router("", catalogue, tags=["catalogue"])
api.add_router("", stock, tags=["stock"])
api.add_router("", stock_counts, tags=["stock"])
api.add_router("", supply, tags=["supply"])
api.add_router("", purchases, tags=["supply"])
api.add_router("", pricing, tags=["pricing"])
api.add_router("", intake, tags=["intake"])
api.add_router("", orders, tags=["orders"])
api.add_router("", work_orders, tags=["orders"])
api.add_router("", order_prices, tags=["pricing"])
api.add_router("", open_work, tags=["open work"])
api.add_router("", scheduling, tags=["scheduling"])
api.add_router("", appointments, tags=["appointments"])
api.add_router("", board, tags=["board"])
api.add_router("", placing, tags=["board"])
api.add_router("", days, tags=["board"])
api.add_router("", days_off, tags=["board"])
api.add_router("", office_reminders, tags=["board"])
api.add_router("", quotes, tags=["quotes"])
api.add_router("", field_quotes, tags=["quotes"])
api.add_router("", public_quotes, tags=["quotes"])
api.add_router("", reports, tags=["reports"])
api.add_router("", daylogs, tags=["day logs"])
api.add_router("", field, tags=["field"])
api.add_router("", messages, tags=["messages"])
api.add_router("", set_up, tags=["set-up"])
