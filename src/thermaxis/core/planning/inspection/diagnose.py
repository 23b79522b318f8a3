"""From what is felt, heard and found to ranked causes, each with the check that settles it."""

from __future__ import annotations

import functools
import math
from collections.abc import Collection, Iterable
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.tables import rows_of

SHOWN = 5


@dataclass(frozen=True, kw_only=True)
class Reason:
    """One piece of evidence and how far it raises (or lowers) a cause."""

    evidence: str
    text: str
    weight: float


@dataclass(frozen=True, kw_only=True)
class Cause:
    """A cause with its share among all causes (0 to 1), what speaks for and against it, and the check for it."""

    name: str
    text: str
    place: str
    share: float
    reasons: tuple[Reason, ...]
    check: str


@dataclass(frozen=True, kw_only=True)
class Diagnosis:
    """Ranked causes, and the check that splits them best; none of either where nothing speaks for any."""

    causes: tuple[Cause, ...]
    next_check: str


@functools.cache
def evidence_texts() -> dict[str, tuple[str, str]]:
    """Every piece of evidence by name: its kind (felt, heard, seen, when, found) and its text; no unit."""
    return {row["evidence"]: (row["kind"], row["text"]) for row in rows_of("evidence")}


@functools.cache
def asked_where(evidence: str) -> str:
    """What has to be asked about a symptom: 'side' (it pulls to), 'wheel' (it is at), or nothing."""
    return next((row["where"] for row in rows_of("evidence") if row["evidence"] == evidence), "")


@functools.cache
def _weights() -> dict[tuple[str, str], float]:
    return {(row["evidence"], row["cause"]): float(row["weight"]) for row in rows_of("symptom_rules")}


@functools.cache
def _checks() -> tuple[tuple[str, str, tuple[str, ...]], ...]:
    return tuple((row["check"], row["text"], tuple(row["settles"].split(";"))) for row in rows_of("checks"))


def diagnose(seen: Iterable[str], answered: Collection[str] = ()) -> Diagnosis:
    """Rank the causes of what was seen: `share = softmax(prior + sum of weights)`, a naive sum of log odds as record.

    The table is `core/data/symptom_rules.csv`; its weights are practice, not statistics. Only causes that something
    speaks for are ranked; the shares are of all causes, so that what is left over is something else. The next check is
    the one whose causes carry nearest to half of the shares, of those that are not `answered` yet; none where all are.
    Raises FieldError for unknown evidence, or none.
    """
    evidence = tuple(dict.fromkeys(seen))
    known = evidence_texts()
    for index, name in enumerate(evidence):
        if name not in known:
            raise FieldError(f"evidence[{index}]", name, "one of " + ", ".join(known))
    if not evidence:
        raise FieldError("evidence", 0, "at least one thing felt, heard, seen or found")
    scored = []
    for row in rows_of("causes"):
        reasons = tuple(
            Reason(evidence=name, text=known[name][1], weight=_weights()[name, row["cause"]])
            for name in evidence
            if (name, row["cause"]) in _weights()
        )
        scored.append((float(row["prior"]) + sum(reason.weight for reason in reasons), row, reasons))
    total = sum(math.exp(score) for score, _, _ in scored)
    shares = {row["cause"]: math.exp(score) / total for score, row, _ in scored}
    causes = [
        Cause(
            name=row["cause"],
            text=row["text"],
            place=row["place"],
            share=shares[row["cause"]],
            reasons=tuple(sorted(reasons, key=lambda reason: -abs(reason.weight))),
            check=next(text for _, text, settles in _checks() if row["cause"] in settles),
        )
        for _, row, reasons in scored
        if any(reason.weight > 0 for reason in reasons)
    ]
    causes.sort(key=lambda cause: -cause.share)
    ranked = {cause.name for cause in causes}
    useful = [check for check in _checks() if ranked & set(check[2]) and check[0] not in answered]
    split = max(useful, key=lambda check: -abs(sum(shares[cause] for cause in check[2]) - 0.5), default=None)
    return Diagnosis(causes=tuple(causes[:SHOWN]), next_check=split[1] if split else "")
