"""Photographs, drawn anew: what comes in is decoded and written again, so that nothing but the picture is kept."""

from __future__ import annotations

import io

from PIL import Image, ImageOps

from thermaxis.core.errors import FieldError

MOST_BYTES = 12_000_000
# What decoding may take in memory: a JPEG is decoded at a fraction of its size where that is enough.
MOST_PIXELS = {"JPEG": 60_000_000, "PNG": 25_000_000}
LONGEST_SIDE = 2400
MEDIA_TYPE = "image/jpeg"
ALLOWED = "a JPEG or PNG picture"


def redrawn(content: bytes) -> bytes:
    """The picture as a JPEG of at most 2400 points a side, upright, without place, time, device or anything behind it.

    The type is found in the bytes, not in the name. FieldError for what is no picture or too large a one.
    """
    if len(content) > MOST_BYTES:
        raise FieldError("file", f"{len(content)} bytes", f"at most {MOST_BYTES} bytes")
    try:
        picture = Image.open(io.BytesIO(content), formats=tuple(MOST_PIXELS))
    # A damaged file may raise nearly anything in a decoder: whatever it is, it is no picture.
    except Exception:
        raise FieldError("file", content[:8].hex(), ALLOWED) from None
    width, height = picture.size
    most = MOST_PIXELS[picture.format or "PNG"]
    if width * height > most:
        raise FieldError("file", f"{width} x {height} points", f"at most {most // 1_000_000} million points")
    try:
        picture.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
        upright = ImageOps.exif_transpose(picture)
        upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
        out = io.BytesIO()
        _points_of(upright).save(out, "JPEG", quality=88)
    except Exception:
        raise FieldError("file", f"damaged {picture.format}", ALLOWED) from None
    return out.getvalue()


def _points_of(picture: Image.Image) -> Image.Image:
    """The points of a picture and nothing else that came with it; what can be seen through is white."""
    seen = picture.convert("RGBA")
    ground = Image.new("RGBA", seen.size, "white")
    ground.alpha_composite(seen)
    points = Image.new("RGB", seen.size)
    points.paste(ground)
    return points


def is_picture(content: bytes) -> bool:
    """Whether kept bytes are a whole picture."""
    try:
        Image.open(io.BytesIO(content), formats=tuple(MOST_PIXELS)).load()
    except Exception:
        return False
    return True
