"""A backup's file: whole it gives back every byte, and whatever is done to it is found before anything is kept of it."""

from __future__ import annotations

import os
import random
import struct
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from pathlib import Path
from typing import BinaryIO

import pytest
from cryptography.hazmat.primitives.ciphers.aead import ChaCha20Poly1305
from cryptography.hazmat.primitives.kdf.scrypt import Scrypt

from thermaxis.core.errors import FieldError
from thermaxis.formats import backup_file
from thermaxis.formats.backup_file import FORMAT, LAST, PIECE, Head, read_backup, read_head, write_backup

HEAD = Head(version="1.0", made_at="2026-11-30T12:00:00+00:00", size=0, migrations={"accounts": "0002_people"})
WORDS = "horse battery staple 9"


def made(folder: Path, size: int, passphrase: str | None = None, *, plain: bool = False) -> tuple[Path, bytes]:
    source, content = folder / "source", bytes(size) if plain else random.Random(7).randbytes(size)
    source.write_bytes(content)
    target = folder / "a.backup"
    write_backup(source, target, replace(HEAD, size=size), passphrase)
    return target, content


@pytest.mark.parametrize("passphrase", [None, WORDS])
@pytest.mark.parametrize("size", [0, 1, PIECE - 11, PIECE * 2, PIECE * 3 + 5])
def test_what_goes_in_comes_out(tmp_path: Path, size: int, passphrase: str | None) -> None:
    target, content = made(tmp_path, size, passphrase)
    head = read_backup(target, tmp_path / "out", passphrase)
    assert (tmp_path / "out").read_bytes() == content
    assert (head.version, head.size, head.locked) == ("1.0", size, passphrase is not None)
    assert target.stat().st_mode & 0o077 == 0
    assert list(tmp_path.glob("*.part")) == []


def test_two_at_once_under_one_name_do_not_mix(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target, contents = tmp_path / "a.backup", [bytes([65 + which]) * (PIECE * 2 + 9) for which in range(2)]
    for which, content in enumerate(contents):
        (tmp_path / f"source{which}").write_bytes(content)
    both, packed = threading.Barrier(2, timeout=60), backup_file._packed

    def side_by_side(source: BinaryIO) -> Iterator[tuple[bytes, bool]]:
        for piece in packed(source):
            both.wait()
            yield piece

    monkeypatch.setattr(backup_file, "_packed", side_by_side)
    head = replace(HEAD, size=len(contents[0]))
    with ThreadPoolExecutor(2) as pool:
        for writing in [pool.submit(write_backup, tmp_path / f"source{which}", target, head) for which in range(2)]:
            writing.result()
    read_backup(target, tmp_path / "out")
    assert (tmp_path / "out").read_bytes() in contents


def test_a_full_disk_leaves_no_half_backup_and_the_one_before(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    target, content = made(tmp_path, 5000)
    full = tmp_path / "a.part"
    full.symlink_to("/dev/full")
    monkeypatch.setattr("tempfile.mkstemp", lambda **_: (os.open(full, os.O_WRONLY), str(full)))
    with pytest.raises(OSError, match="space"):
        made(tmp_path, PIECE * 3)
    read_backup(target, tmp_path / "out")
    assert (tmp_path / "out").read_bytes() == content
    assert not full.is_symlink()


def refused(path: Path, out: Path, passphrase: str | None = None) -> str:
    with pytest.raises(FieldError) as found:
        read_backup(path, out, passphrase)
    assert not out.exists()
    return found.value.path


@pytest.mark.parametrize("passphrase", [None, WORDS])
def test_damage_of_every_kind_is_found(tmp_path: Path, passphrase: str | None, monkeypatch: pytest.MonkeyPatch) -> None:
    # What the key costs to make is another test's: this one makes it forty times.
    monkeypatch.setattr("thermaxis.formats.backup_file.SCRYPT_N", 1 << 10)
    target, _ = made(tmp_path, PIECE * 2 + 700, passphrase)
    whole, draw, out = target.read_bytes(), random.Random(3), tmp_path / "out"
    begins = whole.index(b"}\n") + 2
    changed = [whole[:cut] for cut in (0, 5, begins - 1, begins, begins + 3, begins + 4 + PIECE, len(whole) - 1)]
    changed.append(whole + b"x")
    for _ in range(24):
        place, bit = draw.randrange(len(whole)), 1 << draw.randrange(8)
        changed.append(whole[:place] + bytes([whole[place] ^ bit]) + whole[place + 1 :])
    first = whole[begins : begins + 4 + PIECE + 16]
    second = whole[begins + len(first) : begins + 2 * len(first)]
    # Two pieces in the other order; one left out; the first one said to be the last.
    changed.append(whole[:begins] + second + first + whole[begins + 2 * len(first) :])
    changed.append(whole[:begins] + whole[begins + len(first) :])
    changed.append(whole[:begins] + struct.pack(">I", (PIECE + 16) | LAST) + first[4:])
    for content in changed:
        target.write_bytes(content)
        assert refused(target, out, passphrase) in ("file", "passphrase")


def test_a_passphrase_opens_and_no_other(tmp_path: Path) -> None:
    target, content = made(tmp_path, 5000, WORDS)
    assert refused(target, tmp_path / "out") == "passphrase"
    assert refused(target, tmp_path / "out", WORDS + "!") == "passphrase"
    assert content[:64] not in target.read_bytes()
    with pytest.raises(FieldError):
        made(tmp_path, 10, "short")
    # The same words lock twice to different bytes.
    before = target.read_bytes()
    assert made(tmp_path, 5000, WORDS)[0].read_bytes() != before


def test_the_lock_is_what_its_sources_say(tmp_path: Path) -> None:
    """Opened by hand, with the package's own scrypt and cipher and nothing of ours."""
    import zlib

    target, content = made(tmp_path, 3000, WORDS)
    head = read_head(target)
    key = Scrypt(salt=bytes.fromhex(head.salt), length=32, n=1 << 16, r=8, p=1).derive(WORDS.encode())
    line, rest = target.read_bytes().removeprefix(FORMAT).split(b"\n", 1)
    (word,) = struct.unpack(">I", rest[:4])
    assert word & LAST
    piece = ChaCha20Poly1305(key).decrypt(bytes(11) + b"\x01", rest[4:], line + b"\n")
    assert zlib.decompress(piece) == content


def test_a_file_of_nothing_but_zeros_unpacks_to_no_more_than_it_says(tmp_path: Path) -> None:
    target, _ = made(tmp_path, 30_000_000, plain=True)
    assert target.stat().st_size < 100_000
    source = tmp_path / "source"
    # As somebody would write it who wants the disk full: far more inside than the head says.
    write_backup(source, target, replace(HEAD, size=1000))
    assert refused(target, tmp_path / "out") == "file"


@pytest.mark.parametrize("line", [b"{}", b"[]", b"null", b"{" * 50_000, b'{"size": -1}', b"\xff"])
def test_a_head_that_is_none_is_told(tmp_path: Path, line: bytes) -> None:
    target = tmp_path / "a.backup"
    target.write_bytes(FORMAT + line + b"\n")
    with pytest.raises(FieldError):
        read_head(target)
