"""Pictures that people send: read, made small, and written anew, so that nothing but dots is kept."""

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from foundation.errors import Rejected

LARGEST = 8 * 1024 * 1024
MOST_DOTS = 40_000_000
_READ = ("PNG", "JPEG", "WEBP", "GIF")


def within(content: bytes, size: tuple[int, int]) -> bytes:
    """The picture as PNG, made to fit into width and height in dots.

    Raises
    ------
    Rejected
        When it is no picture, or too large.
    """
    picture = _opened(content).convert("RGBA")
    picture.thumbnail(size)
    return _written(picture, "PNG")


def as_jpeg(content: bytes, size: tuple[int, int]) -> bytes:
    """The picture as JPEG, the right way up, made to fit into width and height in dots.

    Raises
    ------
    Rejected
        When it is no picture, or too large.
    """
    picture = ImageOps.exif_transpose(_opened(content)).convert("RGB")
    picture.thumbnail(size)
    return _written(picture, "JPEG")


def square(content: bytes, side: int) -> bytes:
    """The middle of the picture as a square JPEG, the right way up.

    Raises
    ------
    Rejected
        When it is no picture, or too large.
    """
    picture = ImageOps.fit(_opened(content).convert("RGB"), (side, side))
    return _written(picture, "JPEG")


def check(content: bytes) -> None:
    """It is a picture that can be read.

    Raises
    ------
    Rejected
        When it is none, or too large.
    """
    try:
        _opened(content).load()
    except OSError as error:
        raise Rejected("This picture is not whole.", field="file") from error


def _opened(content: bytes) -> Image.Image:
    if len(content) > LARGEST:
        raise Rejected(f"A picture has at most {LARGEST // 1024 // 1024} MB.", field="file")
    try:
        picture = Image.open(io.BytesIO(content), formats=_READ)
        if picture.width * picture.height > MOST_DOTS:
            raise Rejected("This picture has too many dots.", field="file")
        return ImageOps.exif_transpose(picture)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise Rejected("This is no picture that can be read: take a PNG, JPEG, WebP or GIF.", field="file") from error


def _written(picture: Image.Image, kind: str) -> bytes:
    into = io.BytesIO()
    picture.save(into, kind)
    return into.getvalue()
