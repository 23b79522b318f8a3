"""A checked set as the API gives it."""

from __future__ import annotations

from typing import Any, cast

from thermaxis.apps.fit.api import schemas
from thermaxis.apps.fitted.bedded import film_under
from thermaxis.apps.fitted.offering import Choices
from thermaxis.apps.fitted.parts import AXLES, ON
from thermaxis.apps.solving.checking import OF_THE_BRACKET, OF_THE_HUB, AxleCheck, FitCheck
from thermaxis.core.planning.fit import kit
from thermaxis.core.planning.fit.comparing import Row
from thermaxis.core.planning.fit.measures import CALIPER, PAD, ROTOR
from thermaxis.core.planning.job.schools import options

# What room follows from, where it is entered.
ROOMS = {"edge": "bracket_radius_m", "spokes": "spoke_room_m"}


def fit_out(found: FitCheck, choices: Choices) -> schemas.FitOut:
    return schemas.FitOut.of(
        found,
        axles=[_axle(found, found.axles[axle]) for axle in AXLES],
        choices=[_choices(found, choices, axle) for axle in AXLES],
    )


def _choices(found: FitCheck, choices: Choices, axle: str) -> schemas.AxleChoices:
    return schemas.AxleChoices(
        axle="front" if axle == "front" else "rear",
        pads=[
            schemas.ChoiceOut(key=str(pads.pad.pk), name=pads.pad.name)
            for pads in sorted(choices.pads[axle].values(), key=lambda entry: entry.pad.name)
        ],
        rotors=[schemas.ChoiceOut.of(rotors) for rotors in choices.rotors[axle]],
        pad=str(found.parts.pads(axle).pad.pk),
        rotor=found.parts.rotors(axle).key,
    )


def _axle(found: FitCheck, check: AxleCheck) -> schemas.AxleCheckOut:
    place, parts = check.axle, check.parts
    axle = found.fitter.axles[place]
    return schemas.AxleCheckOut.of(
        check,
        axle="front" if place == "front" else "rear",
        pads=parts.pads(place).pad.name,
        rotors=parts.rotors(place).name,
        pad_shape=parts.pads(place).shape,
        caliper=axle.caliper_kind,
        opposed=check.needs.caliper.opposed,
        ring_measured_m=check.measured.get(("rotor", "thickness_m")),
        ring_stated_m=parts.rotors(place).size.thickness_m,
        pad_measured_m=check.measured.get(("pad", "thickness_m")),
        pad_stated_m=parts.pads(place).thickness_m,
        sensors=[
            schemas.SensorOut(side=cast(Any, side), state=cast(Any, check.box.get(f"sensor.{side}", "")))
            for side in check.needs.sensor_sides
        ],
        stack=_stack(check),
        end=_end(check, guessed=axle.piston_depth_m is None),
        rows=[_row(check, row) for row in check.rows],
        lines=[_line(check, line) for line in check.lines],
        push=_push(found, check),
        film=_film(found, check),
    )


def _film(found: FitCheck, check: AxleCheck) -> schemas.FilmOfOut | None:
    """Where other pads go on rings that stay: whose film is on them."""
    if check.is_on or check.new_rotors:
        return None
    film = film_under(found.fitter.standing, check.axle, check.parts.pads(check.axle).pad)
    if film is None:
        return None
    ways = [] if film.same else [f"{way.label}: {way.reason}" for way in options()["film"]]
    return schemas.FilmOfOut.of(film, schools=ways)


def _stack(check: AxleCheck) -> schemas.StackOut:
    stack = check.stack
    return schemas.StackOut.of(
        stack,
        opening=stack.opening.at if stack.opening else None,
        opening_bound=stack.opening.bound if stack.opening else False,
        pad=stack.inner,
        room_m=check.room.room_m,
        spread_m=check.room.spread_m,
        verdict=check.room.verdict,
    )


def _end(check: AxleCheck, *, guessed: bool) -> schemas.EndOut:
    end, depth = check.end, check.stack.depth
    return schemas.EndOut.of(
        end, depth_m=depth.value_m if depth else None, depth_estimated=guessed, hold_m=check.stack.hold_m
    )


def _row(check: AxleCheck, row: Row) -> schemas.RowOut:
    """A row with where its two values are entered; the machine's own are paths, the part's its measures."""
    measures = ROTOR if row.part == "rotor" else PAD
    of_machine = OF_THE_HUB if row.part == "rotor" else OF_THE_BRACKET
    column = "abutment_m" if row.name == "length_m" else of_machine.get(row.name, "")
    room = ROOMS.get(row.name, "")
    bought = check.parts.rotors(check.axle).key != ON if row.part == "rotor" else True
    new_name = "height_m" if row.name == "band" else row.name if row.name in measures and bought else ""
    part = "pad" if row.name == "band" else row.part
    return schemas.RowOut.of(
        row,
        part=part,
        old_path=f"{check.axle}.{column}" if column else "",
        room_path=f"{check.axle}.{room}" if room else "",
        room_label=CALIPER[room].label if room else "",
        new_name=new_name,
        measured=check.measured.get((part, new_name)),
    )


def _line(check: AxleCheck, line: kit.Line) -> schemas.LineOut:
    words = kit.WORDS.get(line.name, ())
    held = check.box.get(line.name, "")
    return schemas.LineOut.of(
        line, word=held if isinstance(held, str) else "", choices=list(words), counted=line.name in check.counted
    )


def _push(found: FitCheck, check: AxleCheck) -> schemas.PushOut:
    push, reservoir = check.push, check.push.reservoir
    return schemas.PushOut.of(
        push,
        marks_m3=reservoir.marks_m3,
        level=reservoir.level,
        estimated=reservoir.estimated,
        path=found.fitter.holder(check.axle).position,
    )
