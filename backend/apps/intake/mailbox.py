"""Where e-mail comes from. A real mailbox (IMAP, an API) takes the place of the folder."""

from collections.abc import Iterator
from pathlib import Path
from typing import Protocol

from django.conf import settings


class Mailbox(Protocol):
    """Unread e-mails as raw messages (RFC 5322). Nothing is ever thrown away."""

    def unread(self) -> Iterator[tuple[str, int]]:
        """Key and size in bytes of each message that was neither marked as read nor set aside."""
        ...

    def read(self, key: str) -> bytes: ...

    def mark_read(self, key: str) -> None: ...

    def set_aside(self, key: str) -> None:
        """Keep it where it does not come up again."""
        ...

    def read_aside(self, key: str) -> bytes:
        """What was set aside; empty when it is not there any more."""
        ...

    def put_back(self, key: str) -> bool:
        """Make what was set aside unread again; False when it is not there."""
        ...


class FolderMailbox:
    """A folder of .eml files; what was read moves into its folder `read`, what could not be into `aside`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def unread(self) -> Iterator[tuple[str, int]]:
        for path in sorted(self.folder.glob("*.eml")):
            yield path.name, path.stat().st_size

    def read(self, key: str) -> bytes:
        return (self.folder / key).read_bytes()

    def mark_read(self, key: str) -> None:
        self._move(key, "read")

    def set_aside(self, key: str) -> None:
        self._move(key, "aside")

    def read_aside(self, key: str) -> bytes:
        kept = self.folder / "aside" / Path(key).name
        return kept.read_bytes() if kept.exists() else b""

    def put_back(self, key: str) -> bool:
        kept = self.folder / "aside" / Path(key).name
        if not kept.exists():
            return False
        kept.replace(self.folder / kept.name)
        return True

    def _move(self, key: str, into: str) -> None:
        done = self.folder / into
        done.mkdir(parents=True, exist_ok=True)
        (self.folder / key).replace(done / key)


def mailbox() -> Mailbox:
    return FolderMailbox(settings.MAILBOX_FOLDER)
