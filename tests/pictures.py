"""Pictures made for tests."""

from __future__ import annotations

import io

from PIL import Image


def picture(kind: str, size: tuple[int, int] = (40, 30), **saved: object) -> bytes:
    """A small picture that is dark at its top left, as PNG or JPEG."""
    image = Image.new("RGB", size, "white")
    image.paste("black", (0, 0, size[0] // 2, size[1] // 2))
    out = io.BytesIO()
    image.save(out, kind, **saved)
    return out.getvalue()
