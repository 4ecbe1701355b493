"""Reading accounts."""

from allauth.mfa.models import Authenticator
from django.db.models import Exists, OuterRef

from apps.people.models import Account
from core.roles import Role
from foundation.errors import NotFound

_ORDER = {role.value: number for number, role in enumerate(Role)}


def accounts() -> list[Account]:
    """Everybody who may or might sign in, by role and name; `second_factor`: whether they have one."""
    factors = Authenticator.objects.filter(user=OuterRef("pk")).exclude(type=Authenticator.Type.RECOVERY_CODES)
    rows = Account.objects.select_related("technician").annotate(second_factor=Exists(factors))
    return sorted(rows, key=lambda row: (not row.is_active, _ORDER[row.role], row.name.casefold()))


def account(account_id: int) -> Account:
    """One account, as in the list."""
    for row in accounts():
        if row.pk == account_id:
            return row
    raise NotFound("There is no such account.", code="no_account")


def display_name(account: Account) -> str:
    """What somebody is called where allauth names them."""
    return account.name
