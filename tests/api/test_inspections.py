"""Inspections over the API: cell by cell, asking, repeating, finishing into Life, overruling, files, stand-ins."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from tests.pictures import picture
from tests.said import metric
from tests.workshop import Api, assert_problem, machine_named, today
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.fitted.models import PadReading
from thermaxis.apps.inspect.models import InspectionCell

pytestmark = pytest.mark.django_db
PNG = picture("PNG")


@pytest.fixture
def roadster(demo: Api) -> str:
    return f"/machines/{demo.machine('Kit roadster')['id']}"


@pytest.fixture
def sheet(demo: Api, roadster: str) -> str:
    head = {"measured_on": today().isoformat(), "odometer_km": 8412}
    return f"/inspections/{demo.post(f'{roadster}/inspections', head)['id']}"


def enter(demo: Api, sheet: str, status: int = 200, **cells: Any) -> Any:
    """Enter plain values; `front_left__pad_inner_1` is the cell `front_left.pad_inner_1`."""
    body = {
        name.replace("__", "."): value if isinstance(value, dict) else {"value": value} for name, value in cells.items()
    }
    return demo.put(f"{sheet}/cells", {"cells": body}, status)


def values(document: Any) -> dict[str, Any]:
    return {cell["name"]: cell["value"] for cell in document["cells"]}


def test_cells_are_kept_one_by_one_and_repeating_makes_nothing_double(demo: Api, roadster: str, sheet: str) -> None:
    # Starting again goes on with the open one.
    again = demo.post(f"{roadster}/inspections", {"measured_on": today().isoformat(), "odometer_km": 8412})
    assert f"/inspections/{again['id']}" == sheet
    for _ in range(3):
        entered = enter(demo, sheet, front_left__pad_inner_1=0.0088, washers=0.00602)
    assert values(entered["inspection"]) == {"front_left.pad_inner_1": 0.0088, "washers": 0.00602}
    assert InspectionCell.objects.filter(inspection_id=again["id"]).count() == 2
    assert entered["inspection"]["given"] == 1
    assert entered["inspection"]["wanted"] == 20
    # A cell is emptied by null; a word, a tick and a note live beside lengths.
    entered = enter(
        demo,
        sheet,
        front_left__pad_inner_1=None,
        front_left__pins="dry",
        said__hot_smell=True,
        note="raining",
        fluid_age=14,
    )
    assert values(entered["inspection"]) == {
        "washers": 0.00602,
        "front_left.pins": "dry",
        "said.hot_smell": True,
        "note": "raining",
        "fluid_age": 14.0,
    }
    assert entered["inspection"]["causes"][0]["name"] == "slide_pins"
    assert demo.get(sheet)["cells"] == entered["inspection"]["cells"]


def test_a_reading_that_cannot_be_asks_and_the_rest_is_kept(demo: Api, sheet: str) -> None:
    entered = enter(
        demo,
        sheet,
        front_left__pad_inner_1=0.0165,
        front_left__pad_outer_1=0.000362,
        front_right__pad_inner_1=0.0089,
        front_right__pins="rusty",
        nowhere=0.01,
        front_right__rotor_1=0.02551,
        washers=0.00602,
    )
    assert values(entered["inspection"]) == {
        "front_right.pad_inner_1": 0.0089,
        "front_right.rotor_1": 0.02551,
        "washers": 0.00602,
    }
    asks = {ask["name"]: ask for ask in entered["asks"]}
    assert "thicker than new" in metric(asks["front_left.pad_inner_1"]["text"])
    assert asks["front_left.pad_outer_1"]["in_inches_m"] == pytest.approx(0.362 * 0.0254)
    assert {entry["name"]: metric(entry["allowed"]) for entry in entered["refused"]} == {
        "front_right.pins": "one of free, dry, seized",
        "nowhere": "a cell of this machine's inspection",
    }
    # Said to be right it is kept, and marked so.
    entered = enter(demo, sheet, front_left__pad_inner_1={"value": 0.0165, "confirmed": True, "source": "gauge"})
    (cell,) = [cell for cell in entered["inspection"]["cells"] if cell["name"] == "front_left.pad_inner_1"]
    assert (cell["value"], cell["confirmed"], cell["source"]) == (0.0165, True, "gauge")
    # A discard thickness that makes the rotor scrap, or lets it be driven far too thin, asks too; said to be right it is.
    for value, said in ((0.021, "scrap"), (0.0018, "far below")):
        (ask,) = enter(demo, sheet, front__discard=value)["asks"]
        assert ask["name"] == "front.discard"
        assert said in metric(ask["text"])
    entered = enter(demo, sheet, front__discard={"value": 0.021, "confirmed": True})
    assert values(entered["inspection"])["front.discard"] == 0.021
    assert [rotor["discard_m"] for rotor in entered["inspection"]["rotors"]] == [0.021]


def test_last_time_stands_beside_the_cells_while_the_parts_are_the_same(demo: Api, roadster: str, sheet: str) -> None:
    before = demo.get(sheet)["before_m"]
    assert before["front_left.pad_inner_1"] == 0.0092
    assert before["front_left.rotor_1"] == pytest.approx(0.02551 - 0.00602)
    demo.put(f"{sheet}/removed", {"removed": True})
    other = next(entry for entry in demo.post(f"{roadster}/candidates", {})["ranked"] if not entry["fitted"])
    demo.post(f"{roadster}/set", {"key": other["key"]})
    head = {"measured_on": today().isoformat(), "odometer_km": 8412}
    assert "front_left.pad_inner_1" not in demo.post(f"{roadster}/inspections", head)["before_m"]


def test_finishing_feeds_life_and_opening_again_takes_it_back(demo: Api, roadster: str, sheet: str) -> None:
    def front() -> Any:
        return demo.get(f"{roadster}/life")["rows"][0]

    before = front()
    assert [part["position"] for part in before["parts"]] == ["left.inner", "left.outer", "right.inner", "right.outer"]
    enter(demo, sheet, front_left__pad_inner_1=0.0080, front_left__pad_inner_2=0.0078, front_left__pad_outer_1=0.0091)
    demo.put(sheet, {"measured_on": today().isoformat(), "odometer_km": 8600})
    assert demo.put(f"{sheet}/finished", {"finished": True})["finished"]
    demo.put(f"{sheet}/finished", {"finished": True})
    assert PadReading.objects.filter(inspection_id=int(sheet.rpartition("/")[2])).count() == 2
    after = front()
    assert after["now_m"] == pytest.approx(0.0078)
    inner = next(part for part in after["parts"] if part["position"] == "left.inner")
    assert (inner["measurements"], inner["now_m"]) == (2, pytest.approx(0.0078))
    # It wore faster than was computed: fewer events left, by two readings and their distance.
    assert after["wear_scale"] > before["wear_scale"]
    assert inner["wear_per_1000km_low_m"] < inner["wear_per_1000km_m"] < inner["wear_per_1000km_high_m"]
    assert demo.machine("Kit roadster")["odometer_km"] == 8600
    # Closed: nothing gets in until it is opened again.
    assert_problem(enter(demo, sheet, 409, note="late"), 409, said="open it again")
    demo.put(f"{sheet}/finished", {"finished": False})
    assert next(part for part in front()["parts"] if part["position"] == "left.inner")["measurements"] == 1
    enter(demo, sheet, note="not too late")


def test_pads_that_come_off_keep_their_history_and_go_back_on_with_it(demo: Api, roadster: str) -> None:
    def shelf() -> dict[tuple[str, str], list[dict[str, Any]]]:
        found: dict[tuple[str, str], list[dict[str, Any]]] = {}
        for row in demo.get(f"{roadster}/shelf"):
            # The second set of the demo's season has a history of its own.
            if row["name"] != "Fellmark R2":
                found.setdefault((row["kind"], row["axle"]), []).append(row)
        return found

    (own,) = shelf()["pads", "front"]
    (rings,) = shelf()["rotors", "front"]
    assert own["on_machine"]
    assert own["driven_km"] == pytest.approx(8412 - 6920)
    readings = {part["position"]: part["thickness_m"] for part in own["readings"]}
    assert readings["left.inner"] == pytest.approx(0.0092)
    # Three points over washers: the least of them, washers taken off.
    assert {part["position"]: part["thickness_m"] for part in rings["readings"]} == pytest.approx(
        {"left": 0.01949, "right": 0.0195}
    )
    life = demo.get(f"{roadster}/life")["rows"]
    key = next(row["key"] for row in demo.post(f"{roadster}/candidates", {})["ranked"] if not row["fitted"])
    front_pad, _, _, rear_rotor = key.split("-")
    fitted = next(row["key"] for row in candidates(demo, roadster) if row["fitted"])
    _, rear_pad, front_rotor, rear_rotor = fitted.split("-")
    # Another compound in front alone: the rear keeps its pads, both axles their rotors.
    demo.post(f"{roadster}/set", {"key": f"{front_pad}-{rear_pad}-{front_rotor}-{rear_rotor}", "mixed": True})
    machine = machine_named(Workshop.objects.get(name="Tarnside Brake & Chassis"), "Kit roadster")
    machine.odometer_km = 9000.0
    machine.save()
    off = next(row for row in shelf()["pads", "front"] if row["id"] == own["id"])
    assert (off["on_machine"], off["fits"]) == (False, True)
    assert off["driven_km"] == pytest.approx(8412 - 6920)
    (rear,) = shelf()["pads", "rear"]
    assert rear["driven_km"] == pytest.approx(9000 - 6920)
    assert len(shelf()["rotors", "front"]) == 1
    demo.post(f"{roadster}/shelf/pads/{own['id']}/mount", {"axle": "front"})
    again = demo.get(f"{roadster}/life")["rows"]
    assert again[0]["now_m"] == pytest.approx(life[0]["now_m"])
    assert again[1]["now_m"] < life[1]["now_m"]
    again_on = {"axle": "front"}
    answer = demo.post(f"{roadster}/shelf/pads/{own['id']}/mount", again_on, 409)
    assert_problem(answer, 409, said="on a machine already")
    answer = demo.post(f"{roadster}/shelf/rotors/{rings['id']}/mount", again_on, 409)
    assert_problem(answer, 409, said="on a machine already")
    assert next(row for row in shelf()["pads", "front"] if row["id"] == own["id"])["on_machine"]


def candidates(demo: Api, path: str) -> list[dict[str, Any]]:
    found = demo.post(f"{path}/candidates", {})
    return [*found["ranked"], *found["rejected"]]


def test_a_verdict_is_overruled_with_a_reason_that_is_kept(demo: Api, sheet: str) -> None:
    worn = {"value": 0.0029, "confirmed": True}
    enter(demo, sheet, front_left__pad_inner_1=worn, front_left__pad_outer_1=0.0086)
    ask = {"subject": "front.pads", "word": "plan", "reason": ""}
    assert_problem(demo.put(f"{sheet}/overruled", ask, 422), 422, "reason")
    assert_problem(demo.put(f"{sheet}/overruled", {**ask, "word": "maybe", "reason": "x"}, 422), 422, "word")
    assert_problem(demo.put(f"{sheet}/overruled", {**ask, "subject": "engine"}, 422), 422, "subject")
    found = demo.put(f"{sheet}/overruled", {**ask, "reason": "one street week, then new ones"})
    ruling = next(row for row in found["rulings"] if row["subject"] == "front.pads")
    assert (ruling["word"], ruling["overruled"]["word"]) == ("due", "plan")
    assert ruling["overruled"]["reason"] == "one street week, then new ones"
    found = demo.put(f"{sheet}/overruled", {"subject": "front.pads", "word": None})
    assert next(row for row in found["rulings"] if row["subject"] == "front.pads")["overruled"] is None


def test_a_finished_inspection_keeps_the_limits_it_was_judged_by(demo: Api, roadster: str, sheet: str) -> None:
    enter(demo, sheet, front_left__pad_inner_1=0.0070, front_left__rotor_1=0.0192)
    demo.put(f"{sheet}/finished", {"finished": True})
    before = demo.get(sheet)
    demo.patch(f"{roadster}/parts", {"changes": {"front.rotor.thickness_m": 0.0215}})
    after = demo.get(sheet)
    assert (after["wheels"], after["rulings"]) == (before["wheels"], before["rulings"])


def test_head_and_removal(demo: Api, roadster: str, sheet: str) -> None:
    for change, field in (({"measured_on": "2019-01-01"}, "measured_on"), ({"odometer_km": 10.0}, "odometer_km")):
        body = {"measured_on": today().isoformat(), "odometer_km": 8412, **change}
        assert_problem(demo.put(sheet, body, 422), 422, field)
    assert_problem(demo.put(f"{sheet}/finished", {"finished": True}, 409), 409, said="Nothing has been entered")
    enter(demo, sheet, front_left__pad_inner_1=0.0090)
    demo.put(f"{sheet}/finished", {"finished": True})
    rows = demo.get(f"{roadster}/inspections")
    assert [(row["finished"], row["readings"]) for row in rows] == [(True, 1), (True, 28)]
    demo.put(f"{sheet}/removed", {"removed": True})
    inner = demo.get(f"{roadster}/life")["rows"][0]["parts"][0]
    assert inner["measurements"] == 1
    demo.put(f"{sheet}/removed", {"removed": False})
    assert demo.get(f"{roadster}/life")["rows"][0]["parts"][0]["measurements"] == 2


def test_strangers_see_none_of_it(stranger: Api, demo: Api, sheet: str) -> None:
    for method, path, body in (
        ("get", sheet, None),
        ("put", f"{sheet}/cells", {"cells": {}}),
        ("get", f"{sheet}/file/csv", None),
        ("put", f"{sheet}/finished", {"finished": True}),
        ("post", f"{sheet}/gauge", {"cell": "washers", "seed": 1}),
    ):
        assert_problem(stranger.call(method, path, body, 404), 404)


def test_the_sheet_as_csv_and_json(demo: Api, sheet: str, client: Client) -> None:
    enter(demo, sheet, front_left__pad_inner_1=0.0043, front_left__pins="dry", note="a, b", fluid_age=30)
    demo.put(f"{sheet}/overruled", {"subject": "front.pads", "word": "plan", "reason": "two more runs"})
    response = client.get(f"/api{sheet}/file/csv")
    assert response["Content-Disposition"].endswith('.csv"')
    rows = list(csv.DictReader(io.StringIO(response.content.decode("utf-8"))))
    cells = {row["name"]: (row["value"], row["unit"]) for row in rows if row["what"] == "cell"}
    assert cells == {
        "front_left.pad_inner_1": ("4.300", "mm"),
        "front_left.pins": ("dry", ""),
        "note": ("a, b", ""),
        "fluid_age": ("30.0", "months"),
    }
    pads = next(row for row in rows if row["name"] == "front.pads")
    assert (pads["value"], "two more runs" in pads["note"]) == ("plan", True)
    assert {row["name"]: row["value"] for row in rows if row["what"] == "inspection"}["machine"] == "Kit roadster"
    whole = json.loads(client.get(f"/api{sheet}/file/json").content)
    assert values(whole) == values(demo.get(sheet))
    assert_problem(demo.get(f"{sheet}/file/pdf", 422), 422, "kind")


def test_the_gauge_types_what_its_wheel_is(demo: Api, sheet: str) -> None:
    def typed(cell: str, **settings: Any) -> float:
        return float(demo.post(f"{sheet}/gauge", {"cell": cell, "seed": 3, **settings})["typed"])

    assert typed("washers") == pytest.approx(6.02, abs=0.02)
    assert typed("front_left.pad_inner_1") == typed("front_left.pad_inner_1")
    assert typed("front_left.pad_inner_1", unit="in") * 25.4 == pytest.approx(typed("front_left.pad_inner_1"), abs=0.02)
    stuck = typed("front_left.pad_outer_1", story="stuck pin") - typed("front_left.pad_inner_1", story="stuck pin")
    assert stuck > 1.0 > abs(typed("front_left.pad_outer_1") - typed("front_left.pad_inner_1"))
    lip = typed("front_left.rotor_1", story="worn lip")
    assert lip > 20.0 > typed("front_left.rotor_1")
    # Every reading of the even car goes in without a question.
    names = [
        f"{wheel}.{cell}"
        for wheel in ("front_left", "front_right", "rear_left", "rear_right")
        for cell in ("pad_inner_1", "pad_outer_1", "rotor_1", "rotor_2", "rotor_3")
    ]
    entered = demo.put(f"{sheet}/cells", {"cells": {name: {"value": typed(name) / 1e3} for name in names}})
    assert (entered["asks"], entered["refused"], entered["inspection"]["given"]) == ([], [], 20)
    assert_problem(demo.post(f"{sheet}/gauge", {"cell": "note", "seed": 1}, 422), 422, "cell")


def test_the_pyrometer_s_hidden_cooling_is_found_by_calibration(demo: Api, roadster: str) -> None:
    evidence = []
    for seconds in (60.0, 180.0, 360.0):
        ask = {"axle": "front", "since_s": seconds, "speed_mps": 0.0, "seed": 5, "cooling_factor": 1.4}
        value = demo.post(f"{roadster}/pyrometer", ask)["value_C"]
        evidence.append({"kind": "pyrometer", "axle": "front", "value_C": value, "since_s": seconds, "speed_mps": 0.0})
    assert evidence[0]["value_C"] > evidence[2]["value_C"]


def test_pictures_are_kept_once(demo: Api, sheet: str, client: Client) -> None:
    def send(content: bytes, wheel: str = "front_left", token: str = "token-0001") -> Any:
        data = {"wheel": wheel, "token": token, "file": SimpleUploadedFile("a.png", content)}
        return client.post(f"/api{sheet}/photos", data)

    first, again = send(PNG), send(PNG)
    assert first.status_code == again.status_code == 201
    assert first.json()["id"] == again.json()["id"]
    assert [photo["wheel"] for photo in demo.get(sheet)["photos"]] == ["front_left"]
    shown = client.get(f"/api/photos/{first.json()['id']}")
    assert (shown["Content-Type"], shown.content[:3]) == ("image/jpeg", b"\xff\xd8\xff")
    assert_problem(send(b"<svg onload=alert(1)>", token="token-0002").json(), 422, "file")
    assert_problem(send(PNG, wheel="middle", token="token-0003").json(), 422, "wheel")
    demo.put(f"/photos/{first.json()['id']}/removed", {"removed": True})
    assert demo.get(sheet)["photos"] == []


def test_a_motorcycle_has_three_discs(demo: Api) -> None:
    twin = f"/machines/{demo.machine('Middleweight twin')['id']}"
    (row,) = demo.get(f"{twin}/inspections")
    document = demo.get(f"/inspections/{row['id']}")
    assert [wheel["label"] for wheel in document["wheels"]] == ["Front left", "Front right", "Rear"]
    assert document["wanted"] == 15
    # Stainless discs are not machined, whatever is wrong with them.
    demo.put(f"/inspections/{row['id']}/finished", {"finished": False})
    found = demo.put(f"/inspections/{row['id']}/cells", {"cells": {"rear.scoring": {"value": 0.0007}}})["inspection"]
    rotor = next(ruling for ruling in found["rulings"] if ruling["subject"] == "rear.rotor")
    assert (rotor["word"], metric(rotor["rule"])) == ("replace", "material")


def test_the_demo_van_says_why_its_pads_go(demo: Api) -> None:
    van = f"/machines/{demo.machine('Parcel van')['id']}"
    document = demo.get(f"/inspections/{demo.get(f'{van}/inspections')[0]['id']}")
    assert document["causes"][0]["name"] == "slide_pins"
    assert any(ruling["subject"] == "front_left.inner and outer" for ruling in document["rulings"])
    assert demo.get("/symptoms")[0] == {
        "evidence": "pulls_hard_braking",
        "kind": "felt",
        "text": "pulls to one side in hard braking",
        "where": "side",
    }
