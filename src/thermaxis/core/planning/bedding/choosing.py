"""Which school a compound is bedded by unless somebody picks another (bed-and-life 1)."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from thermaxis.core.messages import bedding as say
from thermaxis.core.said import Said

# What words of a leaflet ask for, the strictest first: gentle words are never answered with hard brakings.
WORDS = (
    ("gentle", re.compile(r"\beasy\b|\bgentle\b|\bno hard\b|\bshort, light\b", re.I)),
    ("fade", re.compile(r"\bfade\b", re.I)),
    ("circuit", re.compile(r"\blaps?\b", re.I)),
    ("speed", re.compile(r"\bwithout a pause\b|\bhard (?:stops|brakings)\b", re.I)),
    ("moderate", re.compile(r"\bmoderate\b|\bfirm\b", re.I)),
)
WAY = re.compile(r"(\d{2,4}) ?(km|miles?|mi)\b(?!/h)", re.I)
COUNTS = {"five": 5, "six": 6, "eight": 8, "ten": 10, "twelve": 12, "fifteen": 15, "twenty": 20}
# Written with one space between two words, as `asked_in` makes it.
BRAKINGS = re.compile(r"\b(\d{1,2}|five|six|eight|ten|twelve|fifteen|twenty) (moderate|mild|firm|hard)\b", re.I)
FROM_TO = re.compile(r"(?: stops| brakings| ones)?(?: from (\d{2,3}))?(?: to (\d{1,2}))?", re.I)
HALF_MINUTE_S = 30.0
KM_PER_MILE = 1.609344
LEAST_KM, MOST_KM = 100.0, 300.0
TRACK_USES = ("track", "sprint", "hill")
ROAD_FAMILY = {
    "organic": "gentle",
    "ceramic": "rising",
    "low-metallic": "rising",
    "semi-metallic": "moderate",
    "sintered": "rising",
    "race carbon-metallic": "fade",
}
TRACK_FAMILY = ROAD_FAMILY | {"semi-metallic": "speed", "sintered": "speed"}


def school_in_words(words: str) -> str | None:
    """The school the bedding words of a compound ask for; None where they name none."""
    return next((school for school, pattern in WORDS if pattern.search(words)), None)


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What words name of a series: numbers of brakings, speeds in km/h, way in km, gap in s; else None or 0."""

    way_km: float | None = None
    first: int | None = None
    first_from_kmh: float | None = None
    first_to_kmh: float | None = None
    last: int | None = None
    last_from_kmh: float | None = None
    last_to_kmh: float | None = None
    gap_s: float = 0.0


NOTHING = Asked()


def asked_in(words: str) -> Asked:
    """What the words of a leaflet name; a way is held between 100 and 300 km."""
    words = " ".join(words.split())
    way = WAY.search(words)
    found: dict[str, Any] = {}
    if way is not None:
        km = float(way[1]) * (1.0 if way[2].lower() == "km" else KM_PER_MILE)
        found["way_km"] = min(MOST_KM, max(LEAST_KM, km))
    for named in BRAKINGS.finditer(words):
        part = "first" if named[2].lower() in ("moderate", "mild") else "last"
        found[part] = max(1, min(24, COUNTS.get(named[1].lower()) or int(named[1])))
        speeds = FROM_TO.match(words, named.end())
        for name, speed in zip(("from", "to"), speeds.groups() if speeds else (), strict=False):
            if speed:
                found[f"{part}_{name}_kmh"] = float(speed)
    if re.search(r"half a minute", words, re.I):
        found["gap_s"] = HALF_MINUTE_S
    return Asked(**found)


def default_school(words: str, family: str, use: str, *, motorcycle: bool, makers: bool) -> tuple[str, Said]:
    """The school that is taken unless somebody picks, and why: the maker's rows, the compound's words, else its family.

    Motorcycles on the road go easy, on track by laps.
    """
    if makers:
        return "maker", say.BY_MAKER()
    asked = school_in_words(words)
    if asked is not None:
        return asked, say.BY_WORDS()
    track = use in TRACK_USES
    if motorcycle:
        school = "circuit" if track else "gentle"
    else:
        school = (TRACK_FAMILY if track else ROAD_FAMILY).get(family, "rising")
    return school, say.BY_FAMILY(family=family, use=use)
