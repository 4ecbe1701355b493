"""Labels of parts and shelves: a bar code (Code 128) or a QR code, as SVG and as pages of PDF."""

import base64
import io
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import barcode
import segno
from barcode.writer import SVGWriter

from apps.stock.models import Part
from foundation.errors import Rejected
from foundation.papers import pdf

# So many labels are a long roll.
MOST = 500


class CodeKind(StrEnum):
    """How the code on a label is drawn: Code 128 (ISO/IEC 15417) or QR (ISO/IEC 18004)."""

    BARS = "code 128"
    SQUARE = "qr"


@dataclass(frozen=True, kw_only=True)
class Label:
    """What stands on a label: the code, and words for people."""

    code: str
    name: str
    below: str = ""


def code_image(text: str, kind: CodeKind) -> str:
    """A code as an SVG picture in a data address."""
    buffer = io.BytesIO()
    if kind is CodeKind.SQUARE:
        segno.make(text, error="m", micro=False).save(buffer, kind="svg", border=2, scale=4)
    else:
        drawn = barcode.get("code128", text, writer=SVGWriter())
        drawn.write(buffer, options={"write_text": False, "module_height": 9.0, "module_width": 0.26, "quiet_zone": 3})
    return "data:image/svg+xml;base64," + base64.b64encode(buffer.getvalue()).decode()


def labels_pdf(codes: Sequence[str], *, kind: CodeKind, copies: int = 1) -> bytes:
    """Labels of parts, three in a row on A4.

    Raises
    ------
    Rejected
        When there are none, or too many.
    """
    parts = {row.code: row for row in Part.objects.filter(code__in=codes, merged_into="")}
    wanted = [parts[code] for code in codes if code in parts]
    if not wanted or not 1 <= copies * len(wanted) <= MOST:
        raise Rejected(f"Choose 1 to {MOST} labels.", field="codes")
    labels = [
        {"image": code_image(part.barcode, kind), "name": part.name, "number": part.number, "code": part.barcode}
        for part in wanted
        for _copy in range(copies)
    ]
    return pdf("stock/labels.html", {"labels": labels, "square": kind is CodeKind.SQUARE})
