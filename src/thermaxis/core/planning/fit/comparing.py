"""Old parts against new, measure by measure, with what each may differ by (fit-and-job 2)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from thermaxis.core.messages import fit as say
from thermaxis.core.planning.fit.measures import PAD, ROTOR, Measure
from thermaxis.core.planning.fit.stack import Length
from thermaxis.core.said import Said

DIAMETER_M, HAT_M, DRUM_M = 0.001, 0.0002, 0.0005
BORE_ABOVE_M = 0.0001
CIRCLE_M = 0.0002
EDGE_M, WHEEL_M = 0.002, 0.003
OVERHANG_M = 0.0005
BACKING_M = 0.0003
PIN_ABOVE_M, PIN_SPACING_M = 0.0003, 0.0002
PLAY_LEAST_M, PLAY_MOST_M = 0.0001, 0.0004
"""What a pad may have to move between its abutments in m: less binds, more knocks."""
VERDICTS = ("fits", "look", "does not fit", "measure")
# Apart by less than this, lengths are the same.
EPSILON_M = 1e-9
Lengths = Mapping[str, Length | None]
Found = tuple[str, Said]
"""A verdict of `VERDICTS`, and why."""
Judge = Callable[[float, float], Found]


@dataclass(frozen=True, kw_only=True)
class Row:
    """One measure of old and new: values in SI, what they may differ by (None: no number says it), the verdict and why.

    `quantity` says what the values are; `part` which part it is of; `how` how to measure what is missing.
    """

    name: str
    part: str
    label: str
    quantity: str
    old: float | None
    new: float | None
    may_differ: float | None
    verdict: str
    text: Said
    how: str


def _row(part: str, measure: Measure, old: Length | None, new: Length | None, may: float | None, judge: Judge) -> Row:
    """A row with its verdict and why; to be measured where one of the two is not known."""
    found: Found
    if old is None:
        found = "measure", say.MEASURE_BOTH() if new is None else say.MEASURE_OLD()
    else:
        found = ("measure", say.MEASURE_NEW()) if new is None else judge(old.value_m, new.value_m)
    return Row(
        name=measure.name,
        part=part,
        label=measure.label,
        quantity=measure.quantity,
        old=old.value_m if old else None,
        new=new.value_m if new else None,
        may_differ=may,
        verdict=found[0],
        text=found[1],
        how=measure.how,
    )


def compare_rotors(
    old: Lengths,
    new: Lengths,
    *,
    sliding: bool,
    band_m: tuple[float, float],
    pad_height: Length | None,
    bracket_radius: Length | None,
    rim_room_m: float | None,
    spoke_room: Length | None,
    drum: bool,
) -> list[Row]:
    """Rows of a rotor, as records: `old` and `new` are measures in m by the names of `measures.ROTOR`.

    Differences allowed, in m: diameter 0.001, hat height 0.0002, bore +0.0001 and nothing less, pitch circle 0.0002,
    drum 0.0005. `band_m` is the new ring's swept band as inner and outer radius; a pad that stands over its edge stays
    unswept there. At least 0.002 m to the bracket, 0.003 m to the wheel. `drum`: the hat holds a parking brake.
    """
    rows = [_rotor(old, new, "diameter_m", DIAMETER_M), _hat(old, new, sliding), _bore(old, new)]
    rows += [_count(old, new, "holes"), _rotor(old, new, "pitch_circle_m", CIRCLE_M), _count(old, new, "fixing_screws")]
    if drum:
        rows.append(_rotor(old, new, "drum_m", DRUM_M))
    rows.append(_band(band_m, pad_height))
    across = new.get("diameter_m")
    edge = None if bracket_radius is None or across is None else bracket_radius.value_m - across.value_m / 2.0
    rows.append(_least("edge", say.EDGE_LABEL, edge, EDGE_M, "ruler from the ring's edge to bracket and bridge"))
    rows.append(_least("wheel", say.WHEEL_LABEL, rim_room_m, WHEEL_M, "clay on the caliper, wheel on and turned"))
    spokes = spoke_room.value_m if spoke_room else None
    rows.append(_least("spokes", say.SPOKE_LABEL, spokes, WHEEL_M, "clay on the caliper, wheel on and turned"))
    return rows


def _rotor(old: Lengths, new: Lengths, name: str, may: float) -> Row:
    def judge(then: float, now: float) -> Found:
        off = now - then
        return ("fits", say.FITS()) if abs(off) <= may + EPSILON_M else ("does not fit", _differs(off))

    return _row("rotor", ROTOR[name], old.get(name), new.get(name), may, judge)


def _differs(off: float) -> Said:
    return say.LARGER(by=off) if off > 0 else say.SMALLER(by=-off)


def _hat(old: Lengths, new: Lengths, sliding: bool) -> Row:
    """The hat centres the ring in the caliper: a sliding one follows, an opposed one does not."""

    def judge(then: float, now: float) -> Found:
        off = abs(now - then)
        if off <= HAT_M + EPSILON_M:
            return "fits", say.FITS()
        return ("look", say.OFF_CENTRE_SLIDES(off=off)) if sliding else ("does not fit", say.OFF_CENTRE_FIXED(off=off))

    name = "hat_height_m"
    return _row("rotor", ROTOR[name], old.get(name), new.get(name), HAT_M, judge)


def _bore(old: Lengths, new: Lengths) -> Row:
    def judge(then: float, now: float) -> Found:
        off = now - then
        if -EPSILON_M <= off <= BORE_ABOVE_M + EPSILON_M:
            return "fits", say.FITS()
        return "does not fit", say.BORE_SMALL(by=-off) if off < 0 else say.BORE_LARGE(by=off)

    return _row("rotor", ROTOR["bore_m"], old.get("bore_m"), new.get("bore_m"), BORE_ABOVE_M, judge)


def _count(old: Lengths, new: Lengths, name: str) -> Row:
    def judge(then: float, now: float) -> Found:
        if then == now:
            return "fits", say.FITS()
        if name == "fixing_screws" and now > then:
            # More holes than the hub has screws for: nothing is in the way.
            return "fits", say.MORE_HOLES()
        return "does not fit", say.COUNT_DIFFERS(old=then, new=now)

    return _row("rotor", ROTOR[name], old.get(name), new.get(name), 0.0, judge)


def _band(band_m: tuple[float, float], pad_height: Length | None) -> Row:
    inner, outer = band_m
    band = outer - inner
    found: Found = ("measure", say.MEASURE_NEW())
    if pad_height is not None:
        over = pad_height.value_m - band
        found = ("look", say.OVERHANG(over=over)) if over > OVERHANG_M else ("fits", say.SWEPT())
    return Row(
        name="band",
        part="rotor",
        label="Pad's height on the band",
        quantity="thickness",
        old=band,
        new=pad_height.value_m if pad_height else None,
        may_differ=OVERHANG_M,
        verdict=found[0],
        text=found[1],
        how=PAD["height_m"].how,
    )


def _least(name: str, label: str, room_m: float | None, least_m: float, how: str) -> Row:
    """Room that must not be under a least one, in m."""
    found: Found
    if room_m is None:
        found = "measure", say.MEASURE_ROOM()
    elif room_m < 0:
        found = "does not fit", say.TOUCHES(over=-room_m)
    elif room_m < least_m - EPSILON_M:
        found = "look", say.LITTLE_ROOM(room=room_m, least=least_m)
    else:
        found = "fits", say.FITS()
    return Row(
        name=name,
        part="rotor",
        label=label,
        quantity="thickness",
        old=least_m,
        new=room_m,
        may_differ=None,
        verdict=found[0],
        text=found[1],
        how=how,
    )


def compare_pads(
    old: Lengths, new: Lengths, *, same_shape: bool | None, abutment: Length | None, pins: bool
) -> list[Row]:
    """Rows of a pad, as records: `old` and `new` are measures in m by the names of `measures.PAD`.

    Differences allowed, in m: backing plate 0.0003, pins loose in their holes by up to 0.0003, spacing 0.0002; play
    between the abutments 0.0001 to 0.0004. `same_shape`: whether the outline is the axle's by name, None where nobody
    has said; `pins`: they hang on pins.
    """
    outline = (
        ("measure", say.LAY_OVER())
        if same_shape is None
        else ("fits", say.FITS())
        if same_shape
        else ("does not fit", say.OTHER_OUTLINE())
    )
    rows = [
        Row(
            name="outline",
            part="pad",
            label="Outline",
            quantity="word",
            old=None,
            new=None,
            may_differ=None,
            verdict=outline[0],
            text=outline[1],
            how="lay the new pad over the old one",
        ),
        _pad(old, new, "backing_m", BACKING_M),
    ]
    if not pins or abutment is not None:
        rows.append(_play(new.get("length_m"), abutment))
    if pins:
        rows += [_pin_holes(old, new), _pad(old, new, "pin_spacing_m", PIN_SPACING_M)]
    return rows


def _pad(old: Lengths, new: Lengths, name: str, may: float) -> Row:
    def judge(then: float, now: float) -> Found:
        off = now - then
        word = "look" if name == "backing_m" else "does not fit"
        return ("fits", say.FITS()) if abs(off) <= may + EPSILON_M else (word, _differs(off))

    return _row("pad", PAD[name], old.get(name), new.get(name), may, judge)


def _pin_holes(old: Lengths, new: Lengths) -> Row:
    def judge(then: float, now: float) -> Found:
        off = now - then
        if off < -EPSILON_M:
            return "does not fit", say.SMALLER(by=-off)
        return ("look", say.LARGER(by=off)) if off > PIN_ABOVE_M + EPSILON_M else ("fits", say.FITS())

    return _row("pad", PAD["pin_hole_m"], old.get("pin_hole_m"), new.get("pin_hole_m"), PIN_ABOVE_M, judge)


def _play(length: Length | None, abutment: Length | None) -> Row:
    def judge(between: float, long: float) -> Found:
        play = between - long
        if play < -EPSILON_M:
            return "does not fit", say.TOO_LONG(over=-play)
        if play < PLAY_LEAST_M - EPSILON_M:
            return "look", say.BINDS(play=play)
        return ("look", say.KNOCKS(play=play)) if play > PLAY_MOST_M + EPSILON_M else ("fits", say.PLAY(play=play))

    return _row("pad", PAD["length_m"], abutment, length, PLAY_MOST_M, judge)


def gravest(rows: list[Row]) -> str:
    """The gravest verdict of rows, one of `VERDICTS`; "fits" for none."""
    order = ("does not fit", "look", "measure", "fits")
    return min((row.verdict for row in rows), key=order.index, default="fits")
