"""Prose of the documents wraps at 100 letters, so that a changed word is a changed line: `--fix` wraps it."""

from __future__ import annotations

import re
import sys
import textwrap
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]
WIDTH = 100
DOCUMENTS = ("*.md", "docs/*.md", "docs/*/*.md")
# What is laid out by lines: headings, tables, quotations, pictures, rules.
STANDS = re.compile(r"\s*(#|\||>|!\[|---)")
ITEM = re.compile(r"(\s*)([-*] |\d+\. )")


def wrapped(text: str) -> str:
    """A document with its paragraphs and list items wrapped; code, tables and headings stay as they are."""
    return "\n".join(
        line for block, is_code in _blocks(text.split("\n")) for line in (block if is_code else _lines(block))
    )


def _blocks(lines: list[str]) -> Iterator[tuple[list[str], bool]]:
    """Lines that belong together: a paragraph, a list item, or a line that stands by itself; and whether it is code."""
    block: list[str] = []
    code = False
    for line in lines:
        fence = line.lstrip().startswith("```")
        alone = code or fence or not line.strip() or STANDS.match(line) is not None
        if block and (alone or ITEM.match(line)):
            yield block, False
            block = []
        if alone:
            yield [line], code or fence
        code ^= fence
        if alone:
            continue
        block.append(line)
    if block:
        yield block, False


def _lines(block: list[str]) -> list[str]:
    first = block[0]
    # Code that is indented, and what ends in two spaces, is laid out by hand.
    if (len(block) == 1 and len(first) <= WIDTH) or STANDS.match(first) or first.startswith("    "):
        return block
    item = ITEM.match(first)
    begin = item.group(0) if item else re.match(r"\s*", first).group(0)  # type: ignore[union-attr]
    words = " ".join(line.strip() for line in block)[len(begin.lstrip()) if item else 0 :]
    rest = " " * len(begin)
    filled = textwrap.wrap(
        words, WIDTH, initial_indent=begin, subsequent_indent=rest, break_long_words=False, break_on_hyphens=False
    )
    # A line that began with one of these would be read as another thing.
    return filled if not any(ITEM.match(line) or STANDS.match(line) for line in filled[1:]) else block


def documents() -> list[Path]:
    """Every document of the project."""
    found = sorted(path for pattern in DOCUMENTS for path in ROOT.glob(pattern))
    # Written by a program.
    return [path for path in found if path.name != "THIRD-PARTY.md"]


def main() -> int:
    """Name the documents whose prose is not wrapped; with `--fix`, wrap it."""
    wrong = [path for path in documents() if wrapped(path.read_text("utf-8")) != path.read_text("utf-8")]
    for path in wrong:
        if "--fix" in sys.argv:
            path.write_text(wrapped(path.read_text("utf-8")), "utf-8")
        else:
            print(f"{path.relative_to(ROOT)}: prose is not wrapped at {WIDTH} (python tools/prose.py --fix)")
    return 1 if wrong and "--fix" not in sys.argv else 0


if __name__ == "__main__":
    sys.exit(main())
