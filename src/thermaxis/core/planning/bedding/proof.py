"""Whether a bedding drive worked, from its recorded speeds: what the rings really reached (bed-and-life 3)."""

from __future__ import annotations

import dataclasses
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from thermaxis.core.messages import proof as say
from thermaxis.core.physics.simulate import history, simulate_one
from thermaxis.core.planning.bedding.judging import AXLES, COLUMN, STOPS_IN_WINDOW
from thermaxis.core.planning.bedding.replanning import COOLING_SIGMA, cooled
from thermaxis.core.planning.bedding.setting import Setting
from thermaxis.core.records import TraceDuty
from thermaxis.core.said import Said

Array = NDArray[np.float64]
WORDS = ("overheated", "partly", "bedded")
# Brakes that are let go for less are the same braking; one that takes less speed off is none.
SAME_BRAKING_S, BRAKING_MPS = 1.5, 3.0
# The estimate's own spread, which a face may be over the top by before it is called overheated.
TOP_SPARE_K = 15.0


@dataclass(frozen=True, kw_only=True)
class AxleProof:
    """One axle: how many brakings ended in its window, how many are missing, and what ring and face reached, degC."""

    axle: str
    word: str
    inside: int
    missing: int
    hottest_C: float
    peak_C: float
    text: Said


@dataclass(frozen=True, kw_only=True)
class Proof:
    """What a drive did: a word of `WORDS` for the whole and for each axle; `sure` where cooling off by its spread does
    not change it. `wear_m` by axle, `brakings` all there were."""

    word: str
    axles: tuple[AxleProof, ...]
    brakings: int
    sure: bool
    wear_m: dict[str, float]
    text: Said


def prove(setting: Setting, duty: TraceDuty) -> Proof:
    """Take the machine through a drive and count; once more with cooling a sigma better and worse, to say how sure.

    An axle is overheated where its face passes the top of its window by more than 15 K, bedded where three brakings end
    at or above its low side, else partly. The whole is the worst of both.
    """
    proof = _prove(setting, duty)
    off = float(np.exp(COOLING_SIGMA))
    others = [_prove(cooled(setting, factor), duty) for factor in (off, 1.0 / off)]
    words = {tuple(axle.word for axle in other.axles) for other in (proof, *others)}
    return dataclasses.replace(proof, sure=len(words) == 1)


def _prove(setting: Setting, duty: TraceDuty) -> Proof:
    case = dataclasses.replace(setting.alone, duty=duty)
    rows, result = history(case), simulate_one(case)
    ends = _ends(rows)
    axles = tuple(_axle(setting, axle, rows, ends) for axle in AXLES)
    word = min((axle.word for axle in axles), key=WORDS.index)
    return Proof(
        word=word,
        axles=axles,
        brakings=len(ends),
        sure=True,
        wear_m={axle: getattr(result, axle).pad_wear_m for axle in AXLES},
        text={"bedded": say.BEDDED, "partly": say.PARTLY, "overheated": say.OVERHEATED}[word](
            brakings=float(len(ends)), axles=[axle.text for axle in axles]
        ),
    )


def _ends(rows: Array) -> list[int]:
    """The last row of each braking of a history."""
    t, v = rows[:, COLUMN["t_s"]], rows[:, COLUMN["v_mps"]]
    power = rows[:, COLUMN["front_power_W"]] + rows[:, COLUMN["rear_power_W"]]
    on = np.flatnonzero(power > 0.0)
    if len(on) == 0:
        return []
    parts = np.split(on, np.flatnonzero(np.diff(t[on]) > SAME_BRAKING_S) + 1)
    return [int(part[-1]) for part in parts if v[max(0, part[0] - 1)] - v[part[-1]] >= BRAKING_MPS]


def _axle(setting: Setting, axle: str, rows: Array, ends: list[int]) -> AxleProof:
    window = getattr(setting, axle)
    peak = float(rows[:, COLUMN[f"{axle}_surface_C"]].max())
    bulk = rows[:, COLUMN[f"{axle}_bulk_C"]]
    inside = sum(bool(bulk[end] >= window.low_C) for end in ends)
    missing = max(0, STOPS_IN_WINDOW - inside)
    places = {"axle": axle, "inside": float(inside), "low": window.low_C, "high": window.high_C, "peak": peak}
    if peak > window.high_C + TOP_SPARE_K:
        word, text = "overheated", say.AXLE_OVERHEATED(axle=axle, peak=peak, high=window.high_C)
    elif missing == 0:
        word, text = "bedded", say.AXLE_BEDDED(**places)
    else:
        word, text = "partly", say.AXLE_PARTLY(missing=float(missing), **places)
    return AxleProof(
        axle=axle,
        word=word,
        inside=inside,
        missing=missing,
        hottest_C=float(bulk[ends].max()) if ends else float(bulk.max()),
        peak_C=peak,
        text=text,
    )
