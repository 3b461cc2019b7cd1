"""Picture files: judged by their content, taken over without anything but the picture."""

import hashlib
import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Literal

from PIL import Image, ImageOps, UnidentifiedImageError

from jade_perch.core.errors import OutOfRange
from jade_perch.core.evening.journal import Picture

MOST_PICTURE_BYTES = 12_000_000
MOST_PIXELS = 40_000_000  # more than a phone makes; opened, so many take 120 MB
LONGEST_SIDE = 2400  # of what is kept; finer nobody looks at a sketch or a phone's picture
KINDS: dict[str, tuple[Literal["image/jpeg", "image/png"], str]] = {
    "JPEG": ("image/jpeg", "JPEG"),
    "PNG": ("image/png", "PNG"),
    "WEBP": ("image/jpeg", "JPEG"),
}
ALLOWED = "a JPEG, PNG or WebP picture"
CURE = "Choose the picture itself, or make one with the phone again."


def read_picture(data: bytes) -> Picture:
    """Return a picture file as it is kept: turned upright, made smaller where it is huge.

    Written anew from its pixels alone, so that place, time and maker of the camera stay behind.
    Raises ``OutOfRange`` for what is no picture, whatever it is called, and for one too large.
    """
    starts = data[:8].decode("latin-1", "replace").encode("ascii", "replace").decode()
    with _opened(data, tuple(KINDS), f"a file that begins {starts!r}") as opened:
        return _kept(opened)


def read_kept(content: bytes) -> Picture:
    """Return a picture as it was once kept here, byte for byte; raises ``OutOfRange`` as above."""
    with _opened(content, ("JPEG", "PNG"), "a file that is none") as opened:
        opened.load()
        return _named(content, KINDS[opened.format or ""][0], opened.size)


@contextmanager
def _opened(data: bytes, formats: tuple[str, ...], given: str) -> Iterator[Image.Image]:
    """Open a picture that is not too large; whatever is wrong with it is a refusal."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=formats) as opened:
                _require_few(opened.width * opened.height)
                yield opened
    except OutOfRange:
        raise
    except (Image.DecompressionBombError, Image.DecompressionBombWarning) as error:
        raise _too_many("more than a camera makes") from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise OutOfRange("picture", given, ALLOWED, CURE) from error


def _require_few(pixels: int) -> None:
    if pixels > MOST_PIXELS:
        raise _too_many(f"{pixels / 1e6:.0f} million pixels")


def _kept(opened: Image.Image) -> Picture:
    media_type, written = KINDS[opened.format or ""]
    upright = ImageOps.exif_transpose(opened)
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    bare = Image.new("RGB", upright.size)
    bare.paste(upright.convert("RGB"))
    out = io.BytesIO()
    bare.save(out, format=written, quality=85)
    return _named(out.getvalue(), media_type, bare.size)


def _named(
    content: bytes, media_type: Literal["image/jpeg", "image/png"], size: tuple[int, int]
) -> Picture:
    """Return a picture under the name its content gives it."""
    return Picture(
        name=hashlib.sha256(content).hexdigest()[:40],
        media_type=media_type,
        width=size[0],
        height=size[1],
        content=content,
    )


def _too_many(given: str) -> OutOfRange:
    allowed = f"up to {MOST_PIXELS / 1e6:.0f} million pixels"
    return OutOfRange("picture", given, allowed, "Make it smaller first.")
