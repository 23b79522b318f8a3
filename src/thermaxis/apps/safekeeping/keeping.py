"""Which backups are kept: the last of each of 7 days, 4 weeks and 12 months."""

from __future__ import annotations

import datetime as dt
from collections.abc import Callable, Iterable
from pathlib import Path

DAYS, WEEKS, MONTHS = 7, 4, 12
# What the server writes by itself is named by its moment; whatever else lies in the folder is nobody's to delete.
NAMES = "thermaxis-%Y%m%d-%H%M%S.backup"


def name_of(at: dt.datetime) -> str:
    """How a backup of this moment (UTC) is called."""
    return at.strftime(NAMES)


def moment_of(name: str) -> dt.datetime | None:
    """When a backup of this name was made; None for a name the server does not give."""
    try:
        return dt.datetime.strptime(name, NAMES).replace(tzinfo=dt.UTC)
    except ValueError:
        return None


def to_keep(moments: Iterable[dt.datetime]) -> set[dt.datetime]:
    """Of these those that are kept: the latest of each of the last days, weeks and months that have one."""
    latest_first = sorted(moments, reverse=True)
    kept: set[dt.datetime] = set()
    spans: tuple[tuple[int, Callable[[dt.datetime], object]], ...] = (
        (DAYS, lambda at: at.date()),
        (WEEKS, lambda at: at.isocalendar()[:2]),
        (MONTHS, lambda at: (at.year, at.month)),
    )
    for most, span_of in spans:
        seen: set[object] = set()
        for at in latest_first:
            span = span_of(at)
            if span in seen:
                continue
            if len(seen) == most:
                break
            seen.add(span)
            kept.add(at)
    return kept


def is_due(last: dt.datetime | None, now: dt.datetime) -> bool:
    """Whether the night's backup is still to be made: none since the day began (UTC).

    A clock that was put back does not hold it off for longer than a day.
    """
    return last is None or last.date() < now.date() or last > now + dt.timedelta(days=1)


def listed(folder: Path) -> list[tuple[dt.datetime, Path]]:
    """The backups of a folder that the server made by itself, the latest first."""
    found = [(moment, path) for path in folder.glob("thermaxis-*.backup") if (moment := moment_of(path.name))]
    return sorted(found, reverse=True)


def all_of(folder: Path) -> list[tuple[dt.datetime, Path]]:
    """The backups of a folder, whoever made them, each with the moment it was made at, the latest first."""
    paths = folder.glob("*.backup")
    found = ((moment_of(path.name) or dt.datetime.fromtimestamp(path.stat().st_mtime, dt.UTC), path) for path in paths)
    return sorted(found, reverse=True)


def tidy(folder: Path) -> list[Path]:
    """Delete what is not kept any more; gives what went."""
    rows = listed(folder)
    kept = to_keep(moment for moment, _ in rows)
    gone = [path for moment, path in rows if moment not in kept]
    for path in gone:
        path.unlink(missing_ok=True)
    return gone
