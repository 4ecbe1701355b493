"""Where e-mail comes from. A real mailbox (IMAP, an API) takes the place of the folder."""

from collections.abc import Iterator
from pathlib import Path
from typing import Protocol

from django.conf import settings

LARGEST = 25 * 1024 * 1024


class Mailbox(Protocol):
    """Unread e-mails as raw messages (RFC 5322)."""

    def unread(self) -> Iterator[tuple[str, bytes]]:
        """Key and content of each message that was not marked as read."""
        ...

    def mark_read(self, key: str) -> None: ...


class FolderMailbox:
    """A folder of .eml files; what was read moves into its folder `read`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def unread(self) -> Iterator[tuple[str, bytes]]:
        for path in sorted(self.folder.glob("*.eml")):
            if path.stat().st_size <= LARGEST:
                yield path.name, path.read_bytes()

    def mark_read(self, key: str) -> None:
        done = self.folder / "read"
        done.mkdir(parents=True, exist_ok=True)
        (self.folder / key).replace(done / key)


def mailbox() -> Mailbox:
    return FolderMailbox(settings.MAILBOX_FOLDER)
