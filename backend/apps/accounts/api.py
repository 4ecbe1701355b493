"""HTTP: accounts, for who manages them. Signing in and one's own account are allauth's, below /api/auth."""

from django.http import HttpRequest
from ninja import Router, Status

from apps.accounts import commands, helping, queries
from apps.accounts.idle import note_here
from apps.accounts.letters import origin_of
from apps.accounts.schemas import (
    AccountChangeIn,
    AccountRowOut,
    ActiveIn,
    DeedOut,
    HelpIn,
    InvitationOut,
    InviteIn,
    OwnRoleChangeIn,
    OwnRoleIn,
    OwnRoleOut,
    RoleOut,
    RolesOut,
)
from core.roles import ALLOWED, COMPOSABLE, DUTIES, WHOLE_COMPANY, WORDS, Action, composed
from foundation import clock
from foundation.access import Needs, actor_of
from foundation.schemas import Key

router = Router()


@router.post("/session/here", response={204: None}, auth=Needs(Action.USE))
def here(request: HttpRequest) -> Status[None]:
    """Somebody is at the desk."""
    note_here(request)
    return Status(204, None)


@router.get("/accounts", response=list[AccountRowOut], auth=Needs(Action.MANAGE_ACCOUNTS))
def accounts(request: HttpRequest) -> list[AccountRowOut]:
    """Everybody who may or might sign in."""
    return [AccountRowOut.of(row) for row in queries.accounts()]


@router.post("/accounts", response={201: AccountRowOut}, auth=Needs(Action.MANAGE_ACCOUNTS))
def invite(request: HttpRequest, body: InviteIn) -> Status[AccountRowOut]:
    """Invite somebody by e-mail."""
    made = commands.invite(
        actor=actor_of(request), now=clock.now(), email=body.email, fields=body.fields(), origin=origin_of(request)
    )
    return Status(201, AccountRowOut.of(queries.account(made.pk)))


@router.put("/accounts/{int:account_id}", response=AccountRowOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def change_account(request: HttpRequest, account_id: Key, body: AccountChangeIn) -> AccountRowOut:
    """Another name, role or technician."""
    commands.change_account(
        actor=actor_of(request), now=clock.now(), account_id=account_id, version=body.version, fields=body.fields()
    )
    return AccountRowOut.of(queries.account(account_id))


@router.post("/accounts/{int:account_id}/active", response=AccountRowOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def set_active(request: HttpRequest, account_id: Key, body: ActiveIn) -> AccountRowOut:
    """Let somebody sign in no more, at once and everywhere; or again."""
    commands.set_active(
        actor=actor_of(request), now=clock.now(), account_id=account_id, version=body.version, active=body.active
    )
    return AccountRowOut.of(queries.account(account_id))


@router.post("/accounts/{int:account_id}/invitation", response=InvitationOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def invite_again(request: HttpRequest, account_id: Key) -> InvitationOut:
    """Send an invitation once more, and give its link."""
    link = commands.invite_again(
        actor=actor_of(request), now=clock.now(), account_id=account_id, origin=origin_of(request)
    )
    return InvitationOut(link=link)


@router.delete("/accounts/{int:account_id}/second-factor", response=AccountRowOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def remove_second_factor(request: HttpRequest, account_id: Key) -> AccountRowOut:
    """Let somebody in with the password alone: their phone is lost."""
    commands.remove_second_factor(actor=actor_of(request), now=clock.now(), account_id=account_id)
    return AccountRowOut.of(queries.account(account_id))


@router.post("/accounts/{int:account_id}/help", response={204: None}, auth=Needs(Action.MANAGE_ACCOUNTS))
def sign_in_as(request: HttpRequest, account_id: Key, body: HelpIn) -> Status[None]:
    """Go on as somebody else, to help them; they are told."""
    helping.begin(
        request, actor=actor_of(request), now=clock.now(), account_id=account_id, because=body.because,
        origin=origin_of(request),
    )  # fmt: skip
    return Status(204, None)


@router.post("/session/back", response={204: None}, auth=Needs(Action.USE))
def back(request: HttpRequest) -> Status[None]:
    """Back to one's own account."""
    helping.end(request)
    return Status(204, None)


@router.get("/roles", response=RolesOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def roles(request: HttpRequest) -> RolesOut:
    """What each role may do, the company's own ones too, with the words for it."""
    deeds = [
        DeedOut(
            action=action, words=words, brings=sorted(composed([action]) - {Action.USE, action})
            if action in COMPOSABLE else [], whole_company=action in WHOLE_COMPANY, own=action in COMPOSABLE,
        )
        for action, words in WORDS.items()
    ]  # fmt: skip
    known = [RoleOut(role=role, duty=DUTIES[role], actions=sorted(ALLOWED[role])) for role in DUTIES]
    return RolesOut(deeds=deeds, roles=known, own=[OwnRoleOut.of(row) for row in queries.own_roles()])


@router.post("/roles", response={201: OwnRoleOut}, auth=Needs(Action.MANAGE_ACCOUNTS))
def make_role(request: HttpRequest, body: OwnRoleIn) -> Status[OwnRoleOut]:
    """A role of the company's own."""
    made = commands.make_role(actor=actor_of(request), now=clock.now(), fields=body.fields())
    return Status(201, OwnRoleOut.of(queries.own_role(made.pk)))


@router.put("/roles/{int:role_id}", response=OwnRoleOut, auth=Needs(Action.MANAGE_ACCOUNTS))
def change_role(request: HttpRequest, role_id: Key, body: OwnRoleChangeIn) -> OwnRoleOut:
    """Other actions, another reach; holds for everybody who has it from their next step on."""
    commands.change_role(
        actor=actor_of(request), now=clock.now(), role_id=role_id, version=body.version, fields=body.fields()
    )
    return OwnRoleOut.of(queries.own_role(role_id))


@router.delete("/roles/{int:role_id}", response={204: None}, auth=Needs(Action.MANAGE_ACCOUNTS))
def remove_role(request: HttpRequest, role_id: Key) -> Status[None]:
    """Take away a role that nobody has."""
    commands.remove_role(actor=actor_of(request), now=clock.now(), role_id=role_id)
    return Status(204, None)
