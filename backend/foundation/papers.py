"""Papers: templates as PDF, in the interface's own typeface."""

from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string


def pdf(template: str, words: Mapping[str, Any]) -> bytes:
    """A template as PDF; it finds the typeface as `font`."""
    from weasyprint import HTML  # it takes a second to load, and only printing needs it

    page = render_to_string(template, {**words, "font": font()})
    found: bytes = HTML(string=page, base_url=str(settings.ROOT)).write_pdf()
    return found


@lru_cache(maxsize=1)
def font() -> str:
    """The interface's own typeface, as it was built; without it the machine's sans serif is used."""
    for folder in (settings.FRONTEND_FOLDER / "assets", settings.ROOT / "frontend" / "node_modules"):
        found = sorted(Path(folder).glob("**/atkinson-hyperlegible-next-latin-wght-normal*.woff2"))
        if found:
            return found[0].as_uri()
    return ""
