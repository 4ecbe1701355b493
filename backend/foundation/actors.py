"""Who acts."""

from typing import Protocol

from core.roles import Action, Reach, Role
from foundation.errors import NotPermitted


class Actor(Protocol):
    """Whoever a command is carried out for."""

    @property
    def id(self) -> int: ...
    @property
    def name(self) -> str: ...
    @property
    def role(self) -> Role: ...
    @property
    def role_name(self) -> str: ...
    @property
    def actions(self) -> frozenset[Action]: ...
    @property
    def reach(self) -> Reach: ...
    @property
    def technician_id(self) -> int | None: ...


def require(actor: Actor, action: Action) -> None:
    """Raise NotPermitted when the actor's role does not have the action."""
    if not may(actor, action):
        raise NotPermitted(f"As {actor.role_name} you cannot do this.")


def may(actor: Actor, action: Action) -> bool:
    """Whether the actor's role has the action."""
    return action in actor.actions


def screen_of(actor: Actor) -> str:
    """The screen somebody sits at, where it is known: undoing there takes back what was done there."""
    return str(getattr(actor, "screen", ""))
