"""Reading accounts."""

from allauth.mfa.models import Authenticator
from django.db.models import Exists, OuterRef

from apps.people.models import Account, OwnRole
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


def own_roles() -> list[OwnRole]:
    """The company's own roles by name, with who has them and how far they reach."""
    return list(OwnRole.objects.prefetch_related("areas", "depots", "accounts").order_by("name"))


def own_role(role_id: int) -> OwnRole:
    """One of them, as in the list."""
    found = OwnRole.objects.prefetch_related("areas", "depots", "accounts").filter(pk=role_id).first()
    if found is None:
        raise NotFound("There is no such role.", code="no_role")
    return found


def display_name(account: Account) -> str:
    """What somebody is called where allauth names them."""
    return account.name
