"""What a job costs and leaves behind: schools, fluid and hoses, the reservoir they are bled from."""

from __future__ import annotations

import math

import pytest

from tests.api.test_jobs import TORQUES, hatch, rear_job, work_through
from tests.workshop import Api
from thermaxis.apps.garage.models import Axle

__all__ = ["hatch"]

pytestmark = pytest.mark.django_db


def test_schools_cost_note_and_giving_up(demo: Api, hatch: str) -> None:
    job = rear_job(demo, hatch)
    path = f"/jobs/{job['id']}"
    points = {school["point"]: school for school in job["schools"]}
    assert (points["pins"]["taken"], points["pins"]["chosen"]) == ("silicone", False)
    changed = demo.put(f"{path}/school", {"point": "ears", "option": "dry"})
    assert next(row for row in changed["schools"] if row["point"] == "ears")["taken"] == "dry"
    demo.put(f"{path}/school", {"point": "ears", "option": "jam"}, status=422)
    demo.put(f"{path}/school", {"point": "jam", "option": ""}, status=422)
    costs = demo.put(f"{path}/cost", {"costs": {"rate_per_hour": 0, "quote": 240, "consumables_price": 7}})["cost"]
    # The set as the catalogue has it, and consumables; nothing for an hour at nothing.
    pads = next(row for row in demo.get("/catalogue")["compounds"] if row["name"] in job["parts"])
    shape = demo.get(f"{hatch}/fit")["axles"][1]["pad_shape"]
    price = next(row["price"] for row in pads["shapes"] if row["shape"] == shape)
    assert price > 0
    assert costs["parts_price"] == price
    assert costs["total_price"] == pytest.approx(price + 7)
    assert costs["expected_s"] > 3600
    demo.put(f"{path}/cost", {"costs": {"quote": 250}, "seen": {"quote": 10}}, status=409)
    demo.put(f"{path}/cost", {"costs": {"tip": 1}}, status=422)
    lasting = demo.get(f"{path}/lasting")
    assert lasting["per_1000_km_price"] > 0
    demo.put(f"{path}/note", {"note": "left pin dry", "seen": ""})
    demo.put(f"{path}/note", {"note": "right pin dry", "seen": ""}, status=409)
    given_up = demo.put(f"{path}/abandoned", {"abandoned": True})
    assert (given_up["abandoned"], given_up["note"]) == (True, "left pin dry")
    demo.put(f"{path}/marks", {"marks": [{"key": "eyes", "kind": "done"}]}, status=409)
    assert demo.get(f"{hatch}/set")["rear_pads"] == "Burnside Town"
    assert demo.put(f"{path}/abandoned", {"abandoned": False})["abandoned"] is False


def test_fluid_and_hoses_are_new_after_their_jobs(demo: Api, hatch: str) -> None:
    before = demo.get(hatch)["values"]["fluid.fluid_age_months"]
    assert before > 1
    for kind, torque in TORQUES.items():
        for axle in ("front", "rear"):
            ask = {"axle": axle, "kind": kind, "changes": {"torque_Nm": torque}, "sure": True}
            demo.call("put", f"{hatch}/fasteners", ask)
    demo.put(f"{hatch}/fasteners", {"axle": "front", "kind": "banjo", "changes": {"torque_Nm": 22.0}, "sure": True})
    flush = demo.post(f"{hatch}/jobs", {"axle": "front", "work": "flush"})
    assert [row["corner"] for row in flush["bleeding"]["corners"]][:2] == ["rear_left", "rear_right"]
    assert all(row["strokes"] > 5 for row in flush["bleeding"]["corners"])
    done = work_through(demo, flush)
    assert done["against"] == []
    demo.put(f"/jobs/{flush['id']}/closed", {"closed": True})
    assert demo.get(hatch)["values"]["fluid.fluid_age_months"] == 0
    demo.put(f"/jobs/{flush['id']}/closed", {"closed": False})
    assert demo.get(hatch)["values"]["fluid.fluid_age_months"] == before
    demo.put(f"/jobs/{flush['id']}/abandoned", {"abandoned": True})
    hose = demo.post(f"{hatch}/jobs", {"axle": "front", "work": "hose"})
    work_through(demo, hose)
    demo.put(f"/jobs/{hose['id']}/closed", {"closed": True})
    ages = {
        row["axle"]: row["age_months"]
        for row in demo.get(f"{hatch}/hoses")
        if (row["axle"], row["what"]) == ("front", "hoses")
    }
    assert ages == {"front": 0}


def test_a_job_opened_again_leaves_the_hoses_that_were_said_that_day(demo: Api, hatch: str) -> None:
    for kind in (*TORQUES, "banjo"):
        demo.put(f"{hatch}/fasteners", {"axle": "front", "kind": kind, "changes": {"torque_Nm": 60.0}, "sure": True})
        demo.put(f"{hatch}/fasteners", {"axle": "rear", "kind": kind, "changes": {"torque_Nm": 60.0}, "sure": True})
    demo.put(f"{hatch}/hoses", {"axle": "front", "kind": "braided", "age_months": 30})
    job = demo.post(f"{hatch}/jobs", {"axle": "front", "work": "hose"})
    work_through(demo, job)
    demo.put(f"/jobs/{job['id']}/closed", {"closed": True})
    demo.put(f"/jobs/{job['id']}/closed", {"closed": False})
    (front,) = [row for row in demo.get(f"{hatch}/hoses") if (row["axle"], row["what"]) == ("front", "hoses")]
    assert (front["kind"], front["age_months"]) == ("braided", 30)


def test_a_motorcycle_s_rear_brake_is_bled_from_its_own_reservoir(demo: Api) -> None:
    twin = demo.machine("Middleweight twin")["id"]
    for axle, volume in (("front", 40e-6), ("rear", 9e-6)):
        Axle.objects.filter(machine_id=twin, position=axle).update(reservoir_m3=volume)
    bleeding = demo.post(f"/machines/{twin}/jobs", {"axle": "rear", "work": "hose"})["bleeding"]
    assert bleeding["refill_after"] == math.floor(9e-6 * 2 / 3 / bleeding["stroke_m3"])
