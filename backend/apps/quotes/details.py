"""All about one quote, as whoever asks may see it."""

from apps.board.office_schemas import OfficeReminderOut
from apps.customers.schemas import AssetOut, CustomerOut, NamedOut, SiteOut
from apps.pricing.limits import discount_limit
from apps.pricing.queries import today
from apps.quotes import queries, schemas
from apps.quotes.models import Quote
from apps.quotes.reach import discount_problem
from core.quotes import may_be_edited, steps_from
from core.roles import Action
from foundation.actors import Actor, may


def detail(quote_id: int, actor: Actor) -> schemas.QuoteOut:
    """The quote with its content, versions, questions, surveys and reminders."""
    row = queries.quote(quote_id)
    sees, day = may(actor, Action.SEE_MARGIN), today()
    versions = queries.versions_of(row.pk)
    numbers = {one.pk: one.number for one in versions}
    names = ("job_type_id", "contact_name", "contact_email", "contact_phone", "note", "why_note", "given", "agreed",
             "agreed_by", "request_id", "extra_work_on_id", "order_id", "visit_id")  # fmt: skip
    problem = discount_problem(actor, row)
    return schemas.QuoteOut(
        **schemas.QuoteRowOut.of(row).dict(), **{name: getattr(row, name) for name in names},
        payer=NamedOut.from_orm(row.customer.payer) if row.customer.payer else None,
        customer_whole=CustomerOut.from_orm(row.customer), site_whole=SiteOut.from_orm(row.site) if row.site else None,
        asset=AssetOut.from_orm(row.asset) if row.asset else None, job_type=row.job_type.name if row.job_type else None,
        steps=list(steps_from(row.state_now, revising=row.revising)),
        editable=may_be_edited(row.state_now, revising=row.revising), discount_problem=problem,
        may_agree=_may_agree(actor, row), request=row.request.number if row.request else None,
        extra_work_on=row.extra_work_on.number if row.extra_work_on else None,
        order=row.order.number if row.order else None,
        content=schemas.ContentOut.of(row, sees_costs=sees),
        versions=[schemas.QuoteVersionOut.of(one, row, day) for one in versions],
        questions=[schemas.QuestionOut.of(one, numbers.get(one.version_id, 0)) for one in queries.questions_of(row.pk)],
        surveys=[schemas.SurveyOut.of(visit) for visit in queries.surveys_of(row.pk)],
        reminders=[OfficeReminderOut.of(one) for one in queries.reminders_of(row.pk)],
    )  # fmt: skip


def _may_agree(actor: Actor, row: Quote) -> bool:
    """Whether this person could say yes to what is taken off."""
    return may(actor, Action.ALLOW_DISCOUNTS) and row.agreed < row.given <= discount_limit(actor)
