"""Files of every kind the application takes, and ways to damage them."""

from __future__ import annotations

import io
import json
import random
import zipfile
from typing import Any

import openpyxl

from tests.pictures import picture

TOKENS = (
    b"\x00",
    b"\xff\xfe",
    b"\xff",
    b"1e999",
    b"-1e308",
    b"9" * 400,
    b"nan",
    b"inf",
    b"=1+1",
    b'"',
    b"'",
    b",,,,",
    b";",
    b"\t",
    b"\r",
    b"\n\n",
    b"\xe2\x80\xa8",
    b"[" * 200,
    b"<![CDATA[",
    b"<!DOCTYPE a [<!ENTITY b 'c'>]>&b;",
    b"1048576",
    b"XFD",
    b"\xed\xa0\x80",
    b"%s%n",
    b"__class__",
    b"-",
    b"0",
    b"0x7fffffff",
    b"2026-13-45T99:99:99",
    b"brake " * 300 + b"press",
    b"\x1b[31m",
)

# What may stand in JSON and is hardly meant.
ODD: tuple[Any, ...] = (
    None,
    True,
    [],
    {},
    "",
    "x" * 300,
    -1,
    0,
    1e308,
    -1e-308,
    10**30,
    "nan",
    "\ud800",
    [[1]],
    {"a__b": 1},
    1e9,
)


def mutated(content: bytes, dice: random.Random) -> bytes:
    """The content with one to four damages."""
    out = bytearray(content)
    for _ in range(dice.randint(1, 4)):
        at = dice.randrange(len(out) + 1) if out else 0
        what = dice.randrange(7)
        if what == 0:
            out[at:at] = dice.choice(TOKENS)
        elif what == 1 and out:
            out[min(at, len(out) - 1)] ^= 1 << dice.randrange(8)
        elif what == 2:
            del out[at:]
        elif what == 3:
            del out[at : at + dice.randint(1, 200)]
        elif what == 4:
            out[at:at] = out[dice.randrange(len(out) + 1) :][: dice.randint(1, 500)] * dice.randint(1, 6)
        elif what == 5:
            out[at : at + 20] = dice.randbytes(20)
        else:
            out[at : at + dice.randint(1, 8)] = dice.choice(TOKENS)
    return bytes(out[:300_000])


def mutated_zip(content: bytes, dice: random.Random) -> bytes:
    """A workbook damaged inside: one of its entries changed and packed again; or damaged as it is."""
    if dice.random() < 0.4:
        return mutated(content, dice)
    made = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as new:
        names = old.namelist()
        chosen = dice.choice([name for name in names if name.endswith((".xml", ".rels"))])
        dropped = dice.choice(names) if dice.random() < 0.1 else ""
        for name in names:
            if name != dropped:
                new.writestr(name, mutated(old.read(name), dice) if name == chosen else old.read(name))
    return made.getvalue()


def mutated_tree(document: Any, dice: random.Random) -> bytes:
    """JSON with some of its values and keys changed for others that may stand in JSON, or damaged as text."""

    def change(value: Any, depth: int) -> Any:
        if dice.random() < 0.03:
            return dice.choice(ODD)
        if isinstance(value, dict):
            found = {key: change(entry, depth + 1) for key, entry in value.items() if dice.random() > 0.01}
            if dice.random() < 0.03:
                found[dice.choice(["workshop__members__password__regex", "pk", "__class__", "x" * 100])] = "1"
            return found
        if isinstance(value, list):
            return [change(entry, depth + 1) for entry in value[:50]] * dice.choice((1, 1, 1, 1, 30))
        return value * dice.choice((1, -1, 1e3, 1e-6)) if isinstance(value, float) and dice.random() < 0.1 else value

    text = json.dumps(change(document, 0)).encode()
    return mutated(text, dice) if dice.random() < 0.2 else text


def nudged(text: bytes, dice: random.Random) -> bytes:
    """A large JSON document with one to three of its places changed, taken out, or there twice; the rest is whole."""
    document = json.loads(text)
    for _ in range(dice.randint(1, 3)):
        node = document
        while True:
            keys = list(node) if isinstance(node, dict) else list(range(len(node)))
            if not keys:
                break
            key = dice.choice(keys)
            if isinstance(node[key], dict | list) and node[key] and dice.random() < 0.9:
                node = node[key]
                continue
            what = dice.randrange(4)
            if what == 0:
                del node[key]
            elif what == 1 and isinstance(node, list):
                node.append(node[key])
            elif what == 2 and isinstance(node[key], int | float | str):
                node[key] = node[key] * dice.choice((2, 30))
            else:
                node[key] = dice.choice(ODD)
            break
    return json.dumps(document).encode()


def run_csv() -> bytes:
    """A recorded run of a minute, ten readings a second."""
    rows = "\n".join(
        f"{i / 10:.1f},{20 + 10 * ((i // 40) % 3):.2f},{12 + i % 7:.1f},{200 + i % 90}" for i in range(600)
    )
    return b"time [s],speed [km/h],brake pressure [bar],front disc temp [C]\n" + rows.encode()


def gpx() -> bytes:
    """Positions once a second for a minute and a half."""
    points = "".join(
        f'<trkpt lat="{54.4 + i * 1e-4:.6f}" lon="-3.1"><ele>{100 + i % 9}</ele>'
        f"<time>2026-05-01T10:{i // 60:02d}:{i % 60:02d}Z</time></trkpt>"
        for i in range(90)
    )
    return f'<?xml version="1.0"?><gpx version="1.1" creator="x"><trk><trkseg>{points}</trkseg></trk></gpx>'.encode()


# Which heading of the two tables below holds what.
TABLE = {
    "name": "fluid",
    "standard": "standard",
    "dry_C": "dry boiling point, °C",
    "wet_C": "wet boiling point, °C",
    "price": "price of a litre",
}
BOOK = {**TABLE, "dry_C": "dry", "wet_C": "wet"}


def table_csv() -> bytes:
    """Fluids as a table."""
    head = 'fluid,standard,source,"dry boiling point, °C","wet boiling point, °C",price of a litre\n'
    return (head + "".join(f"Fluid {i},DOT 4,estimate,{250 + i},160,9.5\n" for i in range(8))).encode()


def table_xlsx() -> bytes:
    """The same as a workbook."""
    book = openpyxl.Workbook()
    sheet = book.active
    assert sheet is not None
    for line in table_csv().decode().splitlines():
        sheet.append(
            line.replace('"dry boiling point, °C"', "dry").replace('"wet boiling point, °C"', "wet").split(",")
        )
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def temperature_log() -> str:
    """A thermocouple's log."""
    return "time,temp\n" + "\n".join(f"{i},{20 + i % 300}" for i in range(60))


PICTURES = (picture("JPEG", (200, 150)), picture("PNG", (60, 40)))
