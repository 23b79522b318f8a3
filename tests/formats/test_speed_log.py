"""Runs in: column order, units, separators, marks, junk; the stand-in's noise and what it does to the answer."""

from __future__ import annotations

import dataclasses
import random
import re
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.cases_data import load
from thermaxis.core.errors import FieldError
from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.duty.lap import Element, Lap, Powertrain, drive_lap, session
from thermaxis.core.planning.duty.recorded import Cleaned, Handling, Recording, clean
from thermaxis.core.records import TraceDuty
from thermaxis.devices.run_logger import LoggerSettings, StandInLogger
from thermaxis.formats.run_file import read_run
from thermaxis.formats.speed_log import Use, layout_of, read_table
from thermaxis.formats.text import decode


def lap() -> Lap:
    roadster = load("roadster-circuit")
    shape = ((170, None), (70, 48), (80, None), (60, 30), (260, None), (90, 60), (150, None), (50, 25))
    elements = tuple(Element(length_m=length, radius_m=radius) for length, radius in shape)
    engine = Powertrain(power_W=88000, driven="rear", top_speed_mps=58)
    return drive_lap(elements, roadster.vehicle, engine, "intermediate", roadster.environment, closed=True)


def guessed(text: str) -> list[Use]:
    columns = layout_of(text).columns
    return [Use(column=i, role=column.role, unit=column.unit) for i, column in enumerate(columns) if column.role]


def recorded(run: TraceDuty, loop_m: float, kind: str, seed: int, smoothing: str = "auto", **settings: Any) -> Cleaned:
    delivered = StandInLogger(run, LoggerSettings(**settings), seed=seed, kind=kind, loop_m=loop_m).deliver()
    text = decode(delivered.content)
    return clean(read_run(text, [] if kind == "gpx" else guessed(text)).recording, Handling(smoothing=smoothing))


@pytest.mark.parametrize(
    ("kind", "rate", "seed", "most"),
    [
        ("csv", 10.0, 1, 0.05),
        ("csv", 10.0, 2, 0.05),
        ("gpx", 10.0, 3, 0.05),
        ("csv", 25.0, 4, 0.05),
        ("csv", 5.0, 5, 0.08),
    ],
)
def test_the_stand_in_s_noisy_run_gives_the_peaks_of_the_clean_one(
    kind: str, rate: float, seed: int, most: float
) -> None:
    one = lap()
    run = session(one, 12, cool_down_laps=1)
    case = load("roadster-circuit")
    wanted = simulate_one(dataclasses.replace(case, duty=run))
    found = recorded(run, one.length_m, kind, seed, rate_Hz=rate, spikes_per_hour=60.0)
    got = simulate_one(dataclasses.replace(case, duty=dataclasses.replace(found.duty, grade=None)))
    for axle in ("front", "rear"):
        rise, should = (getattr(entry, axle).peak_surface_C - case.environment.air_C for entry in (got, wanted))
        assert rise == pytest.approx(should, rel=most), axle
    # Laps by position: all of the same length but for the noise of one reading.
    assert len(found.laps) >= 12
    assert [entry.seconds for entry in found.laps[:11]] == pytest.approx([one.duration_s] * 11, abs=0.5)
    assert found.noise_mps == pytest.approx(0.15, rel=0.25)
    assert found.rate_Hz == pytest.approx(rate, rel=0.01)
    braking_per_lap = sum(1 for entry in found.brakings if 100 < entry.at_s < 100 + 4 * one.duration_s) / 4
    assert braking_per_lap == pytest.approx(4, abs=0.6)


def test_a_slow_logger_is_told_that_it_is_one() -> None:
    one = lap()
    found = recorded(session(one, 6), one.length_m, "csv", seed=1, rate_Hz=1.0)
    assert [entry.code for entry in found.remarks] == ["slow"]
    assert found.smoothing == "none"


def test_without_a_position_laps_are_where_the_speed_repeats() -> None:
    one = lap()
    run = session(one, 8)
    t = np.arange(0.0, run.t_s[-1], 0.1)
    found = clean(Recording(t_s=t, v_mps=np.interp(t, run.t_s, run.v_mps)), Handling())
    assert len(found.laps) >= 7
    assert [entry.seconds for entry in found.laps] == pytest.approx([one.duration_s] * len(found.laps), rel=0.02)
    assert found.spikes == 0
    assert found.gaps == 0
    assert found.distance_m == pytest.approx(8 * one.length_m, rel=0.01)


def test_spikes_gaps_and_standing_are_found_and_counted() -> None:
    t = np.arange(0.0, 200.0, 0.1)
    v = np.where(
        t < 60, 20.0, np.where(t < 68, 20.0 - 2.5 * (t - 60), np.where(t < 120, 0.0, np.minimum(20.0, 2.0 * (t - 120))))
    )
    v[400], v[1600] = 55.0, 2.0
    keep = (t < 150) | (t > 156)
    found = clean(Recording(t_s=t[keep], v_mps=v[keep]), Handling(smoothing="light"))
    assert found.spikes == 2
    assert found.gaps == 1
    assert found.gap_s == pytest.approx(6.1, abs=0.11)
    assert found.standing_s == pytest.approx(52.5, abs=1.0)
    # One braking, from 20 m/s to rest at 2.5 m/s2.
    (only,) = found.brakings
    assert only.from_mps == pytest.approx(20, abs=0.3)
    assert only.to_mps == pytest.approx(0, abs=0.8)
    assert only.decel_mps2 == pytest.approx(2.5, rel=0.05)
    # While it stands the duty stands as well.
    standing = np.interp(np.linspace(70, 118, 20), found.duty.t_s, found.duty.v_mps)
    assert standing.max() == 0.0
    assert np.interp(40.0, found.duty.t_s, found.duty.v_mps) == pytest.approx(20, abs=0.1)


@given(grade=st.floats(-0.12, 0.12), speed=st.floats(8, 30))
def test_a_steady_climb_keeps_its_slope(grade: float, speed: float) -> None:
    t = np.arange(0.0, 120.0, 0.2)
    recording = Recording(t_s=t, v_mps=np.full(len(t), speed), altitude_m=300 + grade * speed * t)
    found = clean(recording, Handling())
    assert found.duty.grade is not None
    middle = found.duty.grade[len(found.duty.grade) // 2]
    assert middle == pytest.approx(grade, abs=0.006)


HEAD = "Altitude (ft);Distance (km);Speed (mph);Time (ms)"
ROWS = [f"{400 + i};{0.01 * i:.3f};{60 + i % 5:.1f};{i * 100}" for i in range(200)]


def test_any_order_any_unit_decimal_commas_and_a_mark_at_the_start() -> None:
    plain = "\n".join([HEAD, *ROWS])
    commas = plain.replace(".", ",")
    for content in (
        plain.encode(),
        b"\xef\xbb\xbf" + commas.encode(),
        commas.encode("utf-16"),
        commas.replace("\n", "\r\n").encode("cp1252"),
    ):
        text = decode(content)
        layout = layout_of(text)
        assert [(column.role, column.unit) for column in layout.columns] == [
            ("altitude", "ft"),
            ("distance", "km"),
            ("speed", "mph"),
            ("time", "ms"),
        ]
        table = read_table(text, layout, guessed(text))
        assert table.bad == ()
        assert table.values["time"][-1] == pytest.approx(19.9)
        assert table.values["speed"][:5] == pytest.approx(0.44704 * np.arange(60, 65))
        assert table.values["altitude"][1] == pytest.approx(401 * 0.3048)
        assert table.values["distance"][100] == pytest.approx(1000)


def test_units_on_a_line_of_their_own_clock_times_and_lines_before_the_table() -> None:
    rows = [f"10:00:{i / 10:06.3f},{36 + i % 3},x" for i in range(50)]
    text = "\n".join(["Logger 3 of the club", "", "Clock,Velocity,Note", "h:m:s,km/h,", *rows])
    layout = layout_of(text)
    assert layout.first_line == 5
    assert [column.role for column in layout.columns] == ["time", "speed", ""]
    assert layout.columns[0].unit == "clock"
    values = read_table(text, layout, guessed(text)).values
    assert values["time"][10] - values["time"][0] == pytest.approx(1.0)
    assert values["speed"][0] == pytest.approx(10.0)


def test_three_in_a_hundred_junk_rows_are_named_and_kept_out() -> None:
    rows = list(ROWS)
    junk = random.Random(5).sample(range(3, 197), 6)
    for index in junk:
        rows[index] = random.Random(index).choice(["#####", "400;;60;12", "400;0.1;fast;1;2", "400;0.1;900;7000"])
    text = "\n".join([HEAD, *rows])
    table = read_table(text, layout_of(text), guessed(text))
    assert [row.line for row in table.bad] == sorted(index + 2 for index in junk)
    assert all(row.why for row in table.bad)
    assert len(table.values["time"]) == 194


def test_a_file_of_junk_is_refused_with_its_first_bad_row() -> None:
    rows = [row if i % 3 else "nothing here at all" for i, row in enumerate(ROWS)]
    text = "\n".join([HEAD, *rows])
    with pytest.raises(FieldError, match="the first on line 2: ") as caught:
        read_table(text, layout_of(text), guessed(text))
    assert "67 bad of 200" in str(caught.value)


def test_seventy_thousand_rows_are_read_to_the_last() -> None:
    shares: list[float] = []
    rows = [f"{i / 10:.1f},{50 + 30 * np.sin(i / 90):.2f}" for i in range(70_000)]
    text = "\n".join(["time,speed km/h", *rows])
    found = read_run(text, guessed(text), shares.append)
    assert (found.rows, found.bad) == (70_000, ())
    assert shares == sorted(shares)
    assert clean(found.recording, Handling()).duty.t_s[-1] == pytest.approx(6999.9, abs=0.1)


def test_speed_over_distance_gives_the_time_it_took() -> None:
    text = "\n".join(["distance m,speed m/s", *(f"{i},20" for i in range(2000))])
    assert read_run(text, guessed(text)).recording.t_s[-1] == pytest.approx(1999 / 20)


def two_laps_as_gpx() -> str:
    one = lap()
    logger = StandInLogger(session(one, 2), LoggerSettings(), seed=2, kind="gpx", loop_m=one.length_m)
    return logger.deliver().content.decode()


@pytest.mark.parametrize("lat", ["nan", "1e999", "-91"])
def test_a_gpx_point_that_is_nowhere_is_named(lat: str) -> None:
    text = two_laps_as_gpx()
    found = read_run(re.sub('lat="[^"]*"', f'lat="{lat}"', text, count=1), [])
    assert [(row.line, row.why) for row in found.bad] == [(1, "no place on the earth")]
    with pytest.raises(FieldError, match="no place on the earth"):
        read_run(re.sub('lat="[^"]*"', f'lat="{lat}"', text), [])


def test_a_height_or_speed_that_is_no_number_is_as_if_not_there() -> None:
    text = re.sub("<ele>[^<]*", "<ele>inf", two_laps_as_gpx(), count=1)
    assert read_run(text, []).recording.altitude_m is None
    by_way = read_run(re.sub("(speed>)[0-9.]+", r"\1nan", text, count=1), []).recording.v_mps
    assert np.isfinite(by_way).all()


def test_a_gpx_point_without_a_time_is_named() -> None:
    text = two_laps_as_gpx()
    head, *points = text.split("<trkpt")
    cut = points[7]
    points[7] = cut[: cut.index("<time>")] + cut[cut.index("</time>") + 7 :]
    found = read_run("<trkpt".join([head, *points]), [])
    assert [(row.line, row.why) for row in found.bad] == [(8, "no time stamp")]
    # Without the logger's own speed it comes from the way between points.
    bare = "<trkpt".join(
        [head, *(p[: p.index("<extensions>")] + p[p.index("</extensions>") + 13 :] for p in text.split("<trkpt")[1:])]
    )
    slow, fast = read_run(bare, []).recording.v_mps, read_run(text, []).recording.v_mps
    assert float(np.median(np.abs(slow - fast))) < 0.5
    with pytest.raises(FieldError, match="readable GPX"):
        read_run("<gpx><trk>", [])


@pytest.mark.parametrize(
    ("content", "field"),
    [
        (b"", "file"),
        (b"\x00\x01\x02\x00", "file"),
        (b"only words\nand more words\n", "file"),
        (b"a,b\nc,d\ne,f\n", "file"),
    ],
)
def test_what_is_no_table_is_refused(content: bytes, field: str) -> None:
    with pytest.raises(FieldError) as caught:
        layout_of(decode(content))
    assert caught.value.path == field


@pytest.mark.parametrize(
    ("uses", "path"),
    [
        ([Use(column=2, role="speed", unit="mph")], "uses"),
        ([Use(column=3, role="time", unit="ms")], "uses"),
        ([Use(column=9, role="time", unit="ms")], "uses[0].column"),
        ([Use(column=3, role="time", unit="fortnights")], "uses[0].unit"),
        ([Use(column=3, role="weather", unit="s")], "uses[0].role"),
        ([Use(column=3, role="time", unit="ms"), Use(column=2, role="time", unit="ms")], "uses[0].role"),
    ],
)
def test_columns_that_do_not_make_a_run_are_named(uses: list[Use], path: str) -> None:
    text = "\n".join([HEAD, *ROWS])
    with pytest.raises(FieldError) as caught:
        read_table(text, layout_of(text), uses)
    assert caught.value.path == path


@pytest.mark.parametrize("sign", ["\t", ";"])
def test_times_of_day_with_decimal_commas_part_no_columns(sign: str) -> None:
    rows = [f"10:00:{i // 10:02d},{i % 10}0{sign}{50 + i % 7},5{sign}{i},25" for i in range(60)]
    text = sign.join(("Uhrzeit", "Speed [km/h]", "Brake [%]")) + "\n" + "\n".join(rows)
    layout = layout_of(text)
    assert (layout.separator, layout.decimal, len(layout.columns)) == (sign, ",", 3)
    uses = [Use(column=0, role="time", unit="clock"), Use(column=1, role="speed", unit="km/h")]
    table = read_table(text, layout, uses)
    assert table.bad == ()
    assert table.values["time"][:3] - table.values["time"][0] == pytest.approx([0.0, 0.1, 0.2])
    assert table.values["speed"][0] == pytest.approx(50.5 / 3.6)
