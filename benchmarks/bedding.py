"""How long bedding is planned and planned anew, against a fixed piece of engine work in the same run: `make bench`."""

from __future__ import annotations

import dataclasses
import time
from collections.abc import Callable
from pathlib import Path

from thermaxis.core.physics.simulate import simulate_one
from thermaxis.core.planning.bedding.replanning import Reading, expected_C
from thermaxis.core.planning.bedding.run import Event, standing_of
from thermaxis.core.planning.bedding.schools import Plan, plan_school, schools
from thermaxis.core.planning.bedding.setting import Road, Setting, Window
from thermaxis.formats.case_file import read_case

CASES = Path(__file__).parents[1] / "tests" / "cases"
NAMES = ("roadster-circuit", "hauler-descent", "van-city-drag", "twin-repeated-stops")
ROUNDS = 5


def setting(name: str) -> Setting:
    """A public machine with a window of 150 to 300 degC."""
    case = dataclasses.replace(read_case((CASES / f"{name}.case.json").read_text("utf-8")), statics=None)
    window = Window(low_C=150.0, high_C=300.0)
    road = Road(top_speed_mps=28.0, hard_g=0.6)
    return Setting(case=case, front=window, rear=window, road=road, boiling_C=230.0, machine_top_mps=45.0, power_W=90e3)


def best(work: Callable[[], object]) -> float:
    """Seconds of the fastest of a few rounds."""
    found = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        work()
        found.append(time.perf_counter() - began)
    return min(found)


def main() -> None:
    """Print both for each machine: seconds, and how many single runs of its long duty they are worth."""
    print("machine                all schools, s  of its own duty   planned anew, s  of its own duty")
    for name in NAMES:
        held = setting(name)
        alone = best(lambda held=held: simulate_one(held.case))  # type: ignore[misc]

        def every(held: Setting = held) -> object:
            return [plan_school(held, school) for school in schools() if school != "maker"]

        plan = plan_school(held, "gentle")
        stops = plan.duty.stops if plan.duty else ()
        at = plan.steps[0].item.time_s
        speed = stops[-1].then_speed_mps
        read = Reading(axle="front", value_C=0.0, after=len(stops) - 3, since_s=20.0, speed_mps=speed)
        value = expected_C(held, stops, read) - 30.0
        events = [
            Event(kind="done", at_s=at),
            Event(kind="done", at_s=at + 60.0),
            Event(kind="reading", at_s=at + 80.0, value_C=value, since_s=20.0, moving_mps=speed),
        ]

        def anew(held: Setting = held, plan: Plan = plan, events: list[Event] = events) -> object:
            return standing_of(held, plan.rows, events, plan.steps[-1].front_C)

        all_s, anew_s = best(every), best(anew)
        print(f"{name:22s} {all_s:13.3f} {all_s / alone:14.0f} {anew_s:17.3f} {anew_s / alone:15.0f}")


if __name__ == "__main__":
    main()
