"""What comes in from outside without anybody signed in: the web form, the mailbox, a device service."""

from dataclasses import dataclass

from core.roles import ALLOWED, EVERYWHERE, Action, Reach, Role

# As long as the name of whoever acts may be in the history.
LONGEST_NAME = 120


class _WithoutAccount:
    """What follows from the role of those who have no account."""

    role: Role

    @property
    def role_name(self) -> str:
        return self.role.value

    @property
    def actions(self) -> frozenset[Action]:
        return ALLOWED[self.role]

    @property
    def reach(self) -> Reach:
        return EVERYWHERE


@dataclass(frozen=True, kw_only=True)
class Outside(_WithoutAccount):
    """An actor without an account. It can do what intake can, and is named in the history as what it is.

    What it calls itself is cut to what the history holds.
    """

    name: str
    id: int = 0
    role: Role = Role.INTAKE
    technician_id: int | None = None

    def __post_init__(self) -> None:
        shown = "".join(letter for letter in self.name if letter.isprintable()).strip()
        object.__setattr__(self, "name", shown[:LONGEST_NAME] or "somebody")


@dataclass(frozen=True, kw_only=True)
class SystemActor(_WithoutAccount):
    """Somebody whose act makes steps necessary that their own role does not take: it is still theirs, by name."""

    id: int
    name: str
    role: Role
    technician_id: int | None = None
    screen: str = ""
