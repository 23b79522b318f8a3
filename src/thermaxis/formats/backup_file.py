"""A backup as one file: what it is, the database packed, and a seal on every piece, so that no damage goes unnoticed.

Layout: a line that names the format, a line of JSON (the head), then pieces. A piece is its length (4 bytes, big
endian, the highest bit set on the last one) and its sealed bytes. The pieces, opened and put together, are the database
packed by zlib.

Without a passphrase a seal is BLAKE2b over head, number, whether it is the last, and content: it finds damage. With one
it is ChaCha20-Poly1305 (RFC 8439) in the STREAM construction (Hoang, Reyhanifar, Rogaway, Vizár 2015): the nonce is
the piece's number and whether it is the last, the head is authenticated with each, the key comes from the passphrase by
scrypt (RFC 7914) with the head's salt. Cut short, lengthened, reordered or changed, a file is refused.
"""

from __future__ import annotations

import datetime as dt
import hashlib
import hmac
import json
import os
import secrets
import struct
import tempfile
import zlib
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import BinaryIO

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import ChaCha20Poly1305

from thermaxis.core.errors import FieldError

FORMAT = b"THERMAXIS BACKUP 1\n"
PIECE, LAST = 1 << 16, 1 << 31
# A piece as it is kept: its seal is at its end.
SEAL = 16
LONGEST_HEAD = 100_000
# Limits of what a head says: the database's size, how many migrations, how long a word.
MOST_SIZE, MOST_MIGRATIONS, LONGEST_WORD = 10**12, 500, 300
# scrypt: 64 MB and a good part of a second for each guess.
SCRYPT_N, SCRYPT_R, SCRYPT_P = 1 << 16, 8, 1
SHORTEST_PASSPHRASE, LONGEST_PASSPHRASE = 10, 1000
Seal = Callable[[int, bool, bytes], bytes]


@dataclass(frozen=True, kw_only=True)
class Head:
    """What a backup says of itself: version, when, how large unpacked, the last migration of each app."""

    version: str
    made_at: str
    size: int
    migrations: dict[str, str]
    salt: str = ""

    @property
    def locked(self) -> bool:
        """Whether it opens by passphrase only."""
        return bool(self.salt)


def check_passphrase(passphrase: str | None) -> None:
    """FieldError for one that is guessed too soon."""
    if passphrase is not None and not SHORTEST_PASSPHRASE <= len(passphrase) <= LONGEST_PASSPHRASE:
        raise FieldError("passphrase", "", f"{SHORTEST_PASSPHRASE} to {LONGEST_PASSPHRASE} characters")


def write_backup(database: Path, target: Path, head: Head, passphrase: str | None = None) -> None:
    """Write a backup of a database's file; it bears its name only once it is whole and on the disk."""
    check_passphrase(passphrase)
    if passphrase is not None:
        head = Head(**{**asdict(head), "salt": secrets.token_hex(16)})
    line = _line(head)
    seal = _sealer(line, head, passphrase)
    # A name nobody else writes to, and a file nobody else on this machine reads.
    handle, name = tempfile.mkstemp(prefix=target.name + ".", suffix=".part", dir=target.parent)
    part = Path(name)
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(FORMAT + line)
            with database.open("rb") as source:
                for number, (piece, last) in enumerate(_packed(source)):
                    sealed = seal(number, last, piece)
                    out.write(struct.pack(">I", len(sealed) | (LAST if last else 0)) + sealed)
            out.flush()
            os.fsync(out.fileno())
        os.replace(part, target)
    finally:
        part.unlink(missing_ok=True)
    folder = os.open(target.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def read_head(path: Path) -> Head:
    """What a file says of itself. FieldError where it is no backup."""
    with path.open("rb") as source:
        return _head(source)[1]


def read_backup(path: Path, database: Path, passphrase: str | None = None) -> Head:
    """Unpack a backup into a database's file. FieldError for what is none, damaged, or locked otherwise.

    What was unpacked before damage was found is taken away again.
    """
    whole = False
    try:
        with path.open("rb") as source, database.open("xb") as out:
            line, head = _head(source)
            if head.locked and passphrase is None:
                raise FieldError("passphrase", "", "the passphrase this backup was locked with")
            opener = _opener(line, head, passphrase)
            _unpack(source, out, opener, head.size)
            out.flush()
            os.fsync(out.fileno())
            whole = True
        return head
    finally:
        if not whole:
            database.unlink(missing_ok=True)


def _line(head: Head) -> bytes:
    return json.dumps(asdict(head), sort_keys=True).encode() + b"\n"


def _head(source: BinaryIO) -> tuple[bytes, Head]:
    if source.read(len(FORMAT)) != FORMAT:
        raise FieldError("file", "", "a backup this program has written")
    line = source.readline(LONGEST_HEAD)
    try:
        found = json.loads(line)
        head = Head(**found)
        bytes.fromhex(head.salt)
        words = (*head.migrations, *head.migrations.values(), head.version, head.made_at, head.salt)
        right = (
            type(head.size) is int
            and 0 <= head.size <= MOST_SIZE
            and len(head.migrations) <= MOST_MIGRATIONS
            and all(isinstance(word, str) and len(word) <= LONGEST_WORD for word in words)
            and dt.datetime.fromisoformat(head.made_at).tzinfo is not None
        )
    except (ValueError, TypeError, AttributeError, RecursionError):
        right = False
    if not right or not line.endswith(b"\n"):
        raise _damaged()
    return line, head


def _damaged() -> FieldError:
    return FieldError("file", "", "a whole backup: this one is damaged or cut short")


def _packed(source: BinaryIO) -> Iterator[tuple[bytes, bool]]:
    """A file packed, in pieces of one size, the last one marked."""
    packer, waiting = zlib.compressobj(6), bytearray()
    while block := source.read(1 << 20):
        waiting += packer.compress(block)
        while len(waiting) > PIECE:
            yield bytes(waiting[:PIECE]), False
            del waiting[:PIECE]
    waiting += packer.flush()
    while len(waiting) > PIECE:
        yield bytes(waiting[:PIECE]), False
        del waiting[:PIECE]
    yield bytes(waiting), True


def _unpack(source: BinaryIO, out: BinaryIO, opener: Seal, size: int) -> None:
    unpacker, written, number, last = zlib.decompressobj(), 0, 0, False
    while not last:
        prefix = source.read(4)
        if len(prefix) != 4:
            raise _damaged()
        (word,) = struct.unpack(">I", prefix)
        last, length = bool(word & LAST), word & (LAST - 1)
        # Bounded before anything of that size is read.
        if not SEAL <= length <= PIECE + SEAL:
            raise _damaged()
        sealed = source.read(length)
        if len(sealed) != length:
            raise _damaged()
        piece, number = opener(number, last, sealed), number + 1
        try:
            while piece:
                # No more than was promised: a file of nothing but zeros packs a thousandfold.
                block = unpacker.decompress(piece, 1 << 20)
                piece, written = unpacker.unconsumed_tail, written + len(block)
                if written > size:
                    raise _damaged()
                out.write(block)
        except zlib.error:
            raise _damaged() from None
    if not unpacker.eof or unpacker.unused_data or written != size or source.read(1):
        raise _damaged()


def _key(head: Head, passphrase: str) -> ChaCha20Poly1305:
    salt = bytes.fromhex(head.salt)
    secret = passphrase.encode("utf-8", "surrogatepass")
    most = 160 * SCRYPT_N * SCRYPT_R
    return ChaCha20Poly1305(
        hashlib.scrypt(secret, salt=salt, n=SCRYPT_N, r=SCRYPT_R, p=SCRYPT_P, maxmem=most, dklen=32)
    )


def _nonce(number: int, last: bool) -> bytes:
    return number.to_bytes(11, "big") + bytes([last])


def _mark(line: bytes, number: int, last: bool, piece: bytes) -> bytes:
    return hashlib.blake2b(_nonce(number, last) + piece, digest_size=SEAL, key=hashlib.sha256(line).digest()).digest()


def _sealer(line: bytes, head: Head, passphrase: str | None) -> Seal:
    if passphrase is None:
        return lambda number, last, piece: piece + _mark(line, number, last, piece)
    key = _key(head, passphrase)
    return lambda number, last, piece: key.encrypt(_nonce(number, last), piece, line)


def _opener(line: bytes, head: Head, passphrase: str | None) -> Seal:
    if not head.locked:

        def checked(number: int, last: bool, sealed: bytes) -> bytes:
            piece = sealed[:-SEAL]
            if not hmac.compare_digest(sealed[-SEAL:], _mark(line, number, last, piece)):
                raise _damaged()
            return piece

        return checked
    key = _key(head, passphrase or "")

    def opened(number: int, last: bool, sealed: bytes) -> bytes:
        try:
            return key.decrypt(_nonce(number, last), sealed, line)
        except InvalidTag:
            if number == 0:
                raise FieldError(
                    "passphrase", "", "the passphrase this backup was locked with, and a whole file"
                ) from None
            raise _damaged() from None

    return opened
