"""What has to be read again and is nobody else's, as it stands in the database: sealed by the server's own secret.

That lies beside the database and in no backup: a copy of the data alone opens nothing. ChaCha20-Poly1305 (RFC 8439)
with a random nonce; its key is drawn from the secret by HKDF (RFC 5869).
"""

from __future__ import annotations

import base64
import functools
import secrets

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import ChaCha20Poly1305
from cryptography.hazmat.primitives.hashes import SHA256
from cryptography.hazmat.primitives.kdf.hkdf import HKDF
from django.conf import settings

MARK, NONCE_BYTES = "sealed:", 12


class BrokenSeal(Exception):
    """Sealed by another server, or changed since."""


def sealed(content: bytes) -> str:
    """The content as it may stand in the database."""
    nonce = secrets.token_bytes(NONCE_BYTES)
    return MARK + base64.urlsafe_b64encode(nonce + _cipher(settings.SECRET_KEY).encrypt(nonce, content, None)).decode()


def opened(text: str) -> bytes:
    """What was sealed here. Raises BrokenSeal."""
    try:
        raw = base64.urlsafe_b64decode(text.removeprefix(MARK))
        return _cipher(settings.SECRET_KEY).decrypt(raw[:NONCE_BYTES], raw[NONCE_BYTES:], None)
    except (InvalidTag, ValueError):
        raise BrokenSeal from None


def unsealed(text: str) -> bytes:
    """What a text holds, sealed here or plain as hexadecimal digits. Raises BrokenSeal."""
    return opened(text) if is_sealed(text) else bytes.fromhex(text)


def is_sealed(text: str) -> bool:
    """Whether a text is the sealed form."""
    return text.startswith(MARK)


@functools.cache
def _cipher(secret: str) -> ChaCha20Poly1305:
    key = HKDF(algorithm=SHA256(), length=32, salt=None, info=b"thermaxis sealed columns").derive(secret.encode())
    return ChaCha20Poly1305(key)
