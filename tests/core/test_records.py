"""Records check themselves; the messages name field, value and what is allowed."""

from __future__ import annotations

import dataclasses
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import plain_case
from thermaxis.core import records
from thermaxis.core.checked import Checked, allowed_text
from thermaxis.core.errors import FieldError, SolveError, ThermaxisError
from thermaxis.core.planning.duty.calibrate import Logged
from thermaxis.core.planning.inspection.wheel import RotorSeen

TYPES = [
    value
    for value in vars(records).values()
    if isinstance(value, type) and issubclass(value, Checked) and value not in (records.Case, Checked)
]


def sample(kind: type) -> object:
    """A record of each type that is in order."""
    case = plain_case()
    known = {
        records.Regen: records.Regen(axle="front", max_power_W=1, max_decel_mps2=1, fade_out_mps=1),
        records.Vehicle: case.vehicle,
        records.Trailer: records.Trailer(mass_kg=1, brake_share=0, nose_load_N=0),
        records.Hydraulics: case.hydraulics,
        records.Rotor: case.front.rotor,
        records.Pad: case.front.pad,
        records.Axle: case.front,
        records.Environment: case.environment,
        records.Statics: records.Statics(pedal_force_N=1, rotor_C=1),
        records.Stop: records.Stop(from_mps=2, to_mps=1, decel_mps2=1, then_s=0, then_speed_mps=0),
        records.StopsDuty: case.duty,
        records.DescentDuty: records.DescentDuty(
            kind="descent", grade=0, speed_mps=1, duration_s=1, then_s=0, then_speed_mps=0
        ),
        records.TraceDuty: records.TraceDuty(kind="trace", t_s=(0, 1), v_mps=(0, 1)),
    }
    return known[kind]


@pytest.mark.parametrize("kind", TYPES, ids=lambda kind: kind.__name__)
def test_every_number_refuses_what_is_not_a_number(kind: type) -> None:
    record = sample(kind)
    checked = 0
    for field in dataclasses.fields(record):  # type: ignore[arg-type]
        if "number" not in field.metadata:
            continue
        for wrong in (math.nan, math.inf, "1", True, [1.0]):
            with pytest.raises(FieldError) as caught:
                dataclasses.replace(record, **{field.name: wrong})  # type: ignore[type-var]
            assert caught.value.path == field.name
            assert repr(wrong) in str(caught.value)
            checked += 1
    assert checked or kind is records.StopsDuty


EVERY = {"t_s": (0.0, 1.0, 2.0), "v_mps": (1.0, 2.0, 1.0), "grade": (0.0, 0.1), "value_C": (20.0, 30.0, 40.0)}
SEQUENCES = [(records.TraceDuty, {"kind": "trace"}), (Logged, {"axle": "front"})]


@pytest.mark.parametrize(("kind", "words"), SEQUENCES, ids=lambda value: getattr(value, "__name__", ""))
def test_no_record_takes_what_is_no_number_or_no_time_within_a_list(kind: type, words: dict[str, str]) -> None:
    fields = [field for field in dataclasses.fields(kind) if "numbers" in field.metadata]
    good = {field.name: EVERY[field.name] for field in fields}
    kind(**words, **good)
    assert len(fields) >= 2
    for field in fields:
        for index in range(len(good[field.name])):
            for wrong in (math.nan, math.inf, -math.inf, 1e8, "1", True):
                values: list[object] = list(good[field.name])
                values[index] = wrong
                with pytest.raises(FieldError) as caught:
                    kind(**words, **{**good, field.name: tuple(values)})
                assert caught.value.path == f"{field.name}[{index}]"
    # Nowhere in the core is a list of numbers that is not declared as one, but friction points, which check themselves.
    for record in every_record():
        for field in dataclasses.fields(record):
            if str(field.type).startswith("tuple[float") and record is not RotorSeen:
                assert "numbers" in field.metadata, (record.__name__, field.name)


def every_record(kind: type = Checked) -> list[type]:
    found: list[type] = []
    for record in list[type](kind.__subclasses__()):
        found += [record, *every_record(record)]
    return found


@pytest.mark.parametrize("kind", TYPES, ids=lambda kind: kind.__name__)
def test_every_record_is_frozen(kind: type) -> None:
    record = sample(kind)
    name = dataclasses.fields(record)[0].name  # type: ignore[arg-type]
    with pytest.raises(dataclasses.FrozenInstanceError):
        setattr(record, name, 1)


@given(value=st.floats(allow_nan=False))
def test_bounds_hold_exactly(value: float) -> None:
    inside = 0 <= value <= 1
    try:
        records.Trailer(mass_kg=1, brake_share=value, nose_load_N=0)
    except FieldError:
        assert not inside
    else:
        assert inside


def test_messages_say_what_is_allowed() -> None:
    assert allowed_text({"gt": 0, "le": 5, "optional": True}) == "a number > 0 and <= 5 or null"
    assert allowed_text({"ge": 1, "whole": True}) == "a whole number >= 1"
    error = FieldError("mass_kg", -2.0, "a number > 0")
    assert str(error.under("vehicle")) == "'vehicle.mass_kg' must be a number > 0: -2.0"
    assert error.under("stops").under("[3]").path == "[3].stops.mass_kg"
    assert issubclass(FieldError, ThermaxisError)
    assert issubclass(SolveError, ThermaxisError)
