"""What comes in from outside without anybody signed in: the web form, the mailbox, a device service."""

from dataclasses import dataclass

from core.roles import Role


@dataclass(frozen=True, kw_only=True)
class Outside:
    """An actor without an account. It can do what intake can, and is named in the history as what it is."""

    name: str
    id: int = 0
    role: Role = Role.INTAKE
    technician_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class Deputy:
    """Somebody whose act makes steps necessary that their own role does not take: it is still theirs, by name."""

    id: int
    name: str
    role: Role
    technician_id: int | None = None
