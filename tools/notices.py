"""Writes THIRD-PARTY.md: what is shipped with the application and under which licence, from what is installed."""

from __future__ import annotations

import json
import re
import sys
from importlib import metadata
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[1]
TARGET = ROOT / "THIRD-PARTY.md"
HEAD = """# Third-party notices

Thermaxis is built on other people's work. This page names what is shipped with it and under which
licence; `make notices` writes it from what is installed.

"""
# Drawn into papers; its licence lies beside it.
PAPER_FONT = """DejaVu Sans Condensed, under the Bitstream Vera licence, changes in the public domain:
`src/thermaxis/formats/fonts/LICENSE.txt`."""


def shipped() -> list[tuple[str, str, str, Path]]:
    """Name, version, licence and folder of each package that the built page may hold."""
    packages: dict[str, Any] = json.loads((ROOT / "web" / "package-lock.json").read_text("utf-8"))["packages"]
    seen: dict[str, None] = {}

    def add(name: str, place: str) -> None:
        while True:
            key = f"{place}/node_modules/{name}" if place else f"node_modules/{name}"
            if key in packages:
                break
            if not place:
                return
            place = place[: place.rfind("/node_modules/")] if "/node_modules/" in place else ""
        if key not in seen:
            seen[key] = None
            for needed in packages[key].get("dependencies", {}):
                add(needed, key)

    for name in packages[""]["dependencies"]:
        add(name, "")
    return sorted(
        (key.rpartition("node_modules/")[2], packages[key]["version"], packages[key]["license"], ROOT / "web" / key)
        for key in seen
    )


def licence_text(folder: Path) -> str:
    """The text of a package's licence, empty where it brings none."""
    found = sorted(path for path in folder.iterdir() if re.match(r"(?i)licen[sc]e", path.name) and path.is_file())
    return found[0].read_text("utf-8").strip() if found else ""


def copyright_of(text: str) -> str:
    """Whose work a licence says it is."""
    found = re.search(r"(?im)^.*\(c\).*$|^\s*copyright \d.*$", text)
    return found[0].strip().rstrip(".") if found and "[yyyy]" not in found[0] else ""


def notices() -> str:
    """The whole page."""
    packages = shipped()
    texts: dict[str, str] = {}
    lines = ["## In the page", "", "| package | version | licence | copyright |", "|---|---|---|---|"]
    for name, version, licence, folder in packages:
        text = licence_text(folder)
        lines.append(f"| {name} | {version} | {licence} | {copyright_of(text)} |")
        if text and licence not in texts:
            texts[licence] = text
    lines += ["", "## In papers", "", PAPER_FONT, "", "## On the server", ""]
    lines += ["Installed beside it from their own packages, not shipped:", ""]
    locked = re.findall(r"(?m)^([a-z0-9-]+)==", (ROOT / "requirements" / "app.txt").read_text("utf-8"))
    for name in sorted(locked):
        found = metadata.metadata(name).json
        classes = [entry.rpartition(" :: ")[2] for entry in found.get("classifier", []) if entry.startswith("License")]
        licence = str(found.get("license_expression") or next(iter(classes), "") or found.get("license", ""))
        lines.append(f"- {name}: {licence.splitlines()[0]}")
    for licence, text in sorted(texts.items()):
        lines += ["", f"## {licence}", "", "```", text, "```"]
    return HEAD + "\n".join(lines) + "\n"


def main() -> int:
    """Write the page."""
    TARGET.write_text(notices(), "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
