"""What is drawn of a technician: their photo, a drawing, or their initials."""

from dataclasses import dataclass
from html import escape

from apps.people.models import Photo, Technician
from foundation.errors import NotFound

# Grounds on which white letters can be read (at least 4.5 to 1).
_GROUNDS = ("#6b4a2b", "#31576b", "#5a4569", "#3f5d3a", "#7a3b3b", "#4b4f58")


@dataclass(frozen=True)
class Picture:
    content: bytes
    media_type: str


def portrait_of(technician_id: int) -> Picture:
    """A technician's photo, else their drawing, else their initials.

    Raises
    ------
    NotFound
    """
    photo = Photo.objects.filter(technician_id=technician_id).values_list("content", flat=True).first()
    if photo is not None:
        return Picture(bytes(photo), "image/jpeg")
    row = Technician.objects.filter(pk=technician_id).values_list("portrait", "name").first()
    if row is None:
        raise NotFound("There is no such technician.", code="no_technician")
    drawing, name = row
    return Picture((drawing or initials(name, technician_id)).encode(), "image/svg+xml")


def initials(name: str, key: int) -> str:
    """First letters of the first and the last word, on a ground that the key chooses; an SVG drawing."""
    words = name.split()
    letters = "".join(word[0] for word in (words[:1] + words[1:][-1:])).upper()
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 40">'
        f'<rect width="40" height="40" fill="{_GROUNDS[key % len(_GROUNDS)]}"/>'
        '<text x="20" y="26" font-family="sans-serif" font-size="17" font-weight="600" fill="#fff" '
        f'text-anchor="middle">{escape(letters)}</text></svg>'
    )
