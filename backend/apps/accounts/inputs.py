"""What is handed to the commands of accounts."""

from dataclasses import dataclass

from core.roles import Role


@dataclass(frozen=True, kw_only=True)
class AccountFields:
    """What is set up of an account; a technician works from the phone with it."""

    name: str
    role: Role
    technician_id: int | None = None
