"""What a whole inspection says: verdicts per wheel and axle, each with its rule, and the causes behind them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from thermaxis.core.errors import FieldError
from thermaxis.core.messages import inspection as say
from thermaxis.core.planning.inspection.cells import Value
from thermaxis.core.planning.inspection.diagnose import Diagnosis, diagnose
from thermaxis.core.planning.inspection.evidence import CLEARS, POINTS, Seen, answered_checks, evidence_of, old_fluid
from thermaxis.core.planning.inspection.look import Look, RotorReport, Wheel
from thermaxis.core.planning.inspection.wheel import (
    FRESH_SHARE,
    PAD_STATES,
    PLAN_EVENTS,
    ROTOR_VERDICTS,
    Finding,
    axle_findings,
)
from thermaxis.core.said import Said, verbatim
from thermaxis.core.tables import rows_of

PAD_STATE = {"fresh": "fine", "fine": "fine", "plan": "close", "due": "over", "at once": "over"}
PAD_WORDS = {
    "fresh": "as new",
    "fine": "fine",
    "plan": "plan the change",
    "due": "change now",
    "at once": "change at once",
}
ROTOR_STATE = {"keep": "fine", "clean and keep": "close", "machine": "close", "replace": "over"}
ORDER = ("over", "close", "fine")
NOISES = frozenset({"squeal_cold_only", "squeal_stops_light_brake", "squeal_braking", "squeal_constant"})


@dataclass(frozen=True, kw_only=True)
class Ruling:
    """One verdict: on what, its word, how grave (fine, close, over), why, by which rule, and what settles it.

    `choices` are the words a person may overrule it with.
    """

    subject: str
    word: str
    state: str
    headline: Said
    text: Said | None
    rule: Said
    check: str = ""
    choices: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Assessment:
    """Verdicts, gravest first, pad states and rotors by wheel, what speaks for a cause, and the causes."""

    rulings: tuple[Ruling, ...]
    pads: dict[str, str]
    rotors: dict[str, RotorReport]
    seen: tuple[Seen, ...]
    diagnosis: Diagnosis | None
    wanted: int
    given: int


def rotor_wear_m(family: str) -> float:
    """Wear of a rotor's thickness over the life of one pad set of a family, in m (estimate of the table).

    Raises FieldError for a family the table has not.
    """
    table = {row["family"]: float(row["rotor_wear_m"]) for row in rows_of("rotor_wear")}
    if family not in table:
        raise FieldError("family", family, "one of " + ", ".join(table))
    return table[family]


def assess(wheels: Sequence[Wheel], cells: Mapping[str, Value]) -> Assessment:
    """Judge everything that was measured, picked and said, as records; lengths in m.

    `cells` by the names of `inspection_cells`. Nothing is assumed of what was not entered.
    """
    said = tuple(name.removeprefix("said.") for name, value in cells.items() if name.startswith("said.") and value)
    looks = [Look(wheel, cells) for wheel in wheels]
    rulings: list[Ruling] = []
    for axle in dict.fromkeys(wheel.axle for wheel in wheels):
        rulings += _axle(axle, [look for look in looks if look.wheel.axle == axle], said)
    rulings += _fluid(cells)
    seen = evidence_of(looks, cells, said)
    telling = [entry for entry in seen if entry.evidence not in CLEARS]
    return Assessment(
        rulings=tuple(sorted(rulings, key=lambda ruling: ORDER.index(ruling.state))),
        pads={f"{look.wheel.name}.{side}": state for look in looks for side, state in look.pad_states().items()},
        rotors={look.wheel.name: report for look in looks if (report := look.report())},
        seen=tuple(seen),
        diagnosis=diagnose((entry.evidence for entry in seen), answered_checks(looks)) if telling else None,
        wanted=(2 + POINTS) * len(looks),
        given=sum(len(look.sides) + min(POINTS, len(look.points)) for look in looks),
    )


def _axle(axle: str, looks: Sequence[Look], said: Sequence[str]) -> list[Ruling]:
    rulings = _pads(axle, looks) + _rotors(axle, looks)
    for look in looks:
        name, label = look.wheel.name, look.wheel.label
        rulings += [_difference(f"{name}.{found.rule}", label, found) for found in look.findings()]
        rulings += [
            Ruling(
                subject=f"{name}.{row['cell']}",
                word=row["word"],
                state=row["state"],
                headline=say.AT_PLACE(place=label, found=row["text"]),
                text=None,
                rule=verbatim("underneath"),
                check=row["check"],
            )
            for row in rows_of("underneath")
            if str(look.cells.get(row["cell"])) == row["word"]
        ]
        if look.swallowed:
            rulings.append(
                Ruling(
                    subject=f"{name}.washers",
                    word="look",
                    state="close",
                    rule=verbatim("washers"),
                    headline=say.AT_PLACE(place=label, found="a rotor reading is less than the washers"),
                    text=say.WASHERS(),
                )
            )
    corners = [look.corner for look in looks]
    if len(corners) == 2 and corners[0] and corners[1]:
        noisy = bool(NOISES.intersection(said))
        for found in axle_findings(corners[0], corners[1], looks[0].wheel.pads, noisy=noisy):
            rulings.append(_difference(f"{axle}.{found.rule}", axle.capitalize(), found))
    return rulings


def _difference(subject: str, label: str, found: Finding) -> Ruling:
    # Thick pads that make a noise are good news.
    state = "over" if found.grave else ("fine" if found.rule == "thick but noisy" else "close")
    return Ruling(
        subject=subject,
        word="see to it",
        state=state,
        headline=say.AT_PLACE(place=label, found=found.text),
        text=say.LIKELY(cause=found.cause) if found.cause else None,
        rule=verbatim(found.rule),
        check=found.check and f"{found.check[0].upper()}{found.check[1:]}.",
        choices=("see to it", "leave it"),
    )


def _pads(axle: str, looks: Sequence[Look]) -> list[Ruling]:
    """One verdict on all pads of an axle, by the thinnest: pads are changed in axle pairs."""
    readings = [
        (min(ends), look, side, state)
        for look in looks
        for (side, ends), state in zip(look.sides.items(), look.pad_states().values(), strict=True)
    ]
    if not readings:
        return []
    thinnest, look, side, word = min(readings, key=lambda entry: entry[0])
    limits, per_event = look.wheel.pads, look.wheel.per_event_m
    left = max(0.0, thinnest - limits.change_m) / per_event if per_event > 0 else None
    where = look.wheel.label.lower()
    text = [say.THINNEST(where=where, side=side, thinnest=thinnest, change=limits.change_m)]
    if left is not None and left < 1000:
        text.append(say.EVENTS_LEFT(left=left, wear=per_event))
    if PAD_STATE[word] == "over" and len(looks) > 1:
        text.append(say.BOTH_SIDES())
    rules: dict[str, dict[str, float]] = {
        "at once": {"limit": limits.least_m},
        "due": {"limit": limits.change_m},
        "plan": {"events": PLAN_EVENTS},
        "fresh": {"share": FRESH_SHARE},
        "fine": {"events": PLAN_EVENTS},
    }
    return [
        Ruling(
            subject=f"{axle}.pads",
            word=word,
            state=PAD_STATE[word],
            headline=say.AT_PLACE(place=f"{axle.capitalize()} pads", found=PAD_WORDS[word]),
            text=say.SENTENCES(sentences=text),
            rule=say.PAD_RULES[word](**rules[word]),
            choices=PAD_STATES,
        )
    ]


def _rotors(axle: str, looks: Sequence[Look]) -> list[Ruling]:
    """A verdict per rotor, and what the worst of them asks of its pair."""
    found = [(look, verdict) for look in looks if (verdict := look.verdict())]
    words = [verdict.verdict for _, verdict in found]
    worst = max(words, key=ROTOR_VERDICTS.index, default="keep")
    both = len(looks) == 2 and worst in ("machine", "replace") and words.count(worst) < 2
    rulings = []
    for look, verdict in found:
        # What is sound goes with its pair all the same: two verdicts of one axle never contradict each other.
        follows = both and verdict.verdict != worst
        word = worst if follows else verdict.verdict
        reasons = [say.FULL_STOP(clause=part) for part in (verdict.reason, *verdict.watch)]
        rulings.append(
            Ruling(
                subject=f"{look.wheel.name}.rotor",
                word=word,
                state=ROTOR_STATE[word],
                headline=say.AT_PLACE(
                    place=f"{look.wheel.label} rotor",
                    found=f"{worst} with its pair, by itself: {verdict.verdict}" if follows else word,
                ),
                text=say.SENTENCES(sentences=[*reasons, say.IN_PAIRS()] if follows else reasons),
                rule=verbatim("axle pair" if follows else verdict.rule),
                choices=ROTOR_VERDICTS,
            )
        )
    if both:
        rulings.append(
            Ruling(
                subject=f"{axle}.rotors",
                word=worst,
                state=ROTOR_STATE[worst],
                rule=verbatim("axle pair"),
                headline=say.AT_PLACE(place=f"{axle.capitalize()} rotors", found=f"{worst} both"),
                text=say.IN_PAIRS(),
                choices=ROTOR_VERDICTS,
            )
        )
    return rulings


def _fluid(cells: Mapping[str, Value]) -> list[Ruling]:
    rulings = []
    why, level = old_fluid(cells), cells.get("fluid_level")
    if why:
        rulings.append(
            Ruling(
                subject="fluid.age",
                word="change",
                state="close",
                headline=say.AT_PLACE(place="Fluid", found="change it"),
                text=why,
                rule=verbatim("fluid age"),
                choices=("change", "leave it"),
            )
        )
    if level in ("low", "below the mark"):
        state = "over" if level == "below the mark" else "close"
        rulings.append(
            Ruling(
                subject="fluid.level",
                word="look",
                state=state,
                headline=say.AT_PLACE(place="Fluid level", found=str(level)),
                text=say.FLUID_LEVEL(),
                rule=verbatim("fluid level"),
                check="Look at pads and for wet places before topping up.",
                choices=("look", "leave it"),
            )
        )
    return rulings
