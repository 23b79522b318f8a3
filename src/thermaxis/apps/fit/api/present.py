"""A checked set as the API gives it."""

from __future__ import annotations

import dataclasses
from typing import Any, cast

from thermaxis.apps.accounts.api.said import said_out
from thermaxis.apps.fit.api import schemas
from thermaxis.apps.fitted.bedded import film_under
from thermaxis.apps.fitted.offering import Choices
from thermaxis.apps.fitted.parts import AXLES, ON
from thermaxis.apps.solving.checking import OF_THE_BRACKET, OF_THE_HUB, AxleCheck, FitCheck
from thermaxis.core.planning.fit import kit
from thermaxis.core.planning.fit.comparing import Row
from thermaxis.core.planning.fit.measures import CALIPER, PAD, ROTOR
from thermaxis.core.planning.fit.stack import Length
from thermaxis.core.planning.job.schools import options

# What room follows from, where it is entered.
ROOMS = {"edge": "bracket_radius_m", "spokes": "spoke_room_m"}


def fit_out(found: FitCheck, choices: Choices) -> schemas.FitOut:
    return schemas.FitOut(
        key=found.key,
        said=found.said,
        gone=found.gone,
        verdict=cast(Any, found.verdict),
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
        rotors=[schemas.ChoiceOut(key=rotors.key, name=rotors.name) for rotors in choices.rotors[axle]],
        pad=str(found.parts.pads(axle).pad.pk),
        rotor=found.parts.rotors(axle).key,
    )


def _axle(found: FitCheck, check: AxleCheck) -> schemas.AxleCheckOut:
    place, parts = check.axle, check.parts
    axle = found.fitter.axles[place]
    return schemas.AxleCheckOut(
        axle="front" if place == "front" else "rear",
        pads=parts.pads(place).pad.name,
        rotors=parts.rotors(place).name,
        pad_shape=parts.pads(place).shape,
        caliper=axle.caliper_kind,
        opposed=check.needs.caliper.opposed,
        is_on=check.is_on,
        new_rotors=check.new_rotors,
        ring_measured_m=check.measured.get(("rotor", "thickness_m")),
        ring_stated_m=parts.rotors(place).size.thickness_m,
        pad_measured_m=check.measured.get(("pad", "thickness_m")),
        pad_stated_m=parts.pads(place).thickness_m,
        sensors=[
            schemas.SensorOut(side=cast(Any, side), state=cast(Any, check.box.get(f"sensor.{side}", "")))
            for side in check.needs.sensor_sides
        ],
        verdict=cast(Any, check.verdict),
        headline=said_out(check.headline),
        stack=_stack(check),
        end=_end(check, guessed=axle.piston_depth_m is None),
        rows=[_row(check, row) for row in check.rows],
        lines=[_line(check, line) for line in check.lines],
        push=_push(found, check),
        ways=[
            schemas.WayOut(kind=cast(Any, way.kind), title=way.title, text=said_out(way.text), key=way.key)
            for way in check.ways
        ],
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
    return schemas.FilmOfOut(same=film.same, text=said_out(film.text), schools=ways)


def _length(found: Length) -> schemas.LengthOut:
    return schemas.LengthOut(**dataclasses.asdict(found))


def _stack(check: AxleCheck) -> schemas.StackOut:
    stack, pad = check.stack, check.stack.inner
    return schemas.StackOut(
        opening=_length(stack.opening.at) if stack.opening else None,
        opening_bound=stack.opening.bound if stack.opening else False,
        rotor=_length(stack.rotor),
        discard_m=stack.discard_m,
        pad=schemas.PadStackOut(
            friction=_length(pad.friction), backing_m=pad.backing_m, shim_m=pad.shim_m, change_m=pad.change_m
        ),
        sides=stack.sides,
        clearance_m=stack.clearance_m,
        needed_m=stack.needed_m,
        room_m=check.room.room_m,
        spread_m=check.room.spread_m,
        verdict=cast(Any, check.room.verdict),
    )


def _end(check: AxleCheck, *, guessed: bool) -> schemas.EndOut:
    end, depth = check.end, check.stack.depth
    return schemas.EndOut(
        depth_m=depth.value_m if depth else None,
        depth_estimated=guessed,
        hold_m=check.stack.hold_m,
        travel_m=end.travel_m,
        behind_m=end.behind_m,
        thinnest_m=end.thinnest_m,
        verdict=cast(Any, end.verdict),
        text=said_out(end.text),
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
    return schemas.RowOut(
        name=row.name,
        part=cast(Any, part),
        label=row.label,
        quantity=row.quantity,
        old=row.old,
        new=row.new,
        may_differ=row.may_differ,
        verdict=cast(Any, row.verdict),
        text=said_out(row.text),
        how=row.how,
        old_path=f"{check.axle}.{column}" if column else "",
        room_path=f"{check.axle}.{room}" if room else "",
        room_label=CALIPER[room].label if room else "",
        new_name=new_name,
        measured=check.measured.get((part, new_name)),
    )


def _line(check: AxleCheck, line: kit.Line) -> schemas.LineOut:
    words = kit.WORDS.get(line.name, ())
    held = check.box.get(line.name, "")
    return schemas.LineOut(
        name=line.name,
        label=line.label,
        quantity=cast(Any, line.quantity),
        need=line.need,
        have=line.have,
        word=held if isinstance(held, str) else "",
        choices=list(words),
        verdict=cast(Any, line.verdict),
        text=said_out(line.text),
        check=line.check,
        counted=line.name in check.counted,
    )


def _push(found: FitCheck, check: AxleCheck) -> schemas.PushOut:
    push, reservoir = check.push, check.push.reservoir
    return schemas.PushOut(
        corners=[schemas.CornerOut(wheel=corner.wheel, volume_m3=corner.volume_m3) for corner in push.corners],
        total_m3=push.total_m3,
        room_m3=push.room_m3,
        over_m3=push.over_m3,
        marks_m3=reservoir.marks_m3,
        level=reservoir.level,
        estimated=reservoir.estimated,
        path=found.fitter.holder(check.axle).position,
        after=push.after,
        school=cast(Any, push.school),
        reason=said_out(push.reason),
        remarks=[said_out(text) for text in push.remarks],
    )
