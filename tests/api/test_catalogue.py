"""The catalogue over the API: what is in it, files out and in, all or nothing, errors by row, strangers."""

from __future__ import annotations

import datetime as dt
import json
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from tests.said import metric
from tests.workshop import Api, assert_problem, today
from thermaxis.apps.catalogue.models import Fluid, Pad, Rotor
from thermaxis.formats.catalogue_table import TABLES
from thermaxis.formats.table import read_table, write_csv, write_sheet

pytestmark = pytest.mark.django_db


def file_of(demo: Api, table: str, kind: str = "csv") -> bytes:
    response = demo.client.get(f"/api/catalogue/file/{table}/{kind}")
    assert response.status_code == 200
    return bytes(response.content)


def send(demo: Api, what: str, table: str, content: bytes, mapping: Any = None, status: int = 200) -> Any:
    data: dict[str, Any] = {"table": table, "file": SimpleUploadedFile("parts.csv", content)}
    if what != "look":
        guessed = send(demo, "look", table, content)["mapping"] if mapping is None else mapping
        data["mapping"] = json.dumps(guessed)
    response = demo.client.post(f"/api/catalogue/{what}", data)
    assert response.status_code == status, response.content
    return response.json()


def edited(content: bytes, row: int, heading: str, value: str) -> bytes:
    """The file with one cell changed; rows counted as a spreadsheet does."""
    table = read_table(content)
    rows = [list(cells) for _, cells in table.rows]
    rows[row - 2][table.headings.index(heading)] = value
    return write_csv(table.headings, rows)


def test_the_catalogue_holds_what_the_demo_brings(demo: Api) -> None:
    found = demo.get("/catalogue")
    assert (len(found["compounds"]), len(found["rotors"]), len(found["fluids"])) == (16, 21, 5)
    quiet = next(row for row in found["compounds"] if row["name"] == "Burnside Quiet")
    assert quiet["mu"][0] == {"temperature_C": 0.0, "mu": 0.36, "provenance": "maker"}
    assert quiet["rotor_wear_m"] == pytest.approx(0.00015)
    assert {shape["shape"] for shape in quiet["shapes"]} >= {"RF-36", "RR-26"}


@pytest.mark.parametrize("table", TABLES)
@pytest.mark.parametrize("kind", ["csv", "xlsx"])
def test_what_goes_out_comes_back_as_it_was(demo: Api, table: str, kind: str) -> None:
    content = file_of(demo, table, kind)
    found = send(demo, "read", table, content)
    assert (found["added"], found["changed"], found["errors"], found["written"]) == ([], [], [], False)
    assert found["same"] == len(read_table(content).rows)
    # Taken in, nothing is different: the second file is the first, byte for byte where it is text.
    send(demo, "import", table, content)
    if kind == "csv":
        assert file_of(demo, table) == content


def test_an_emptied_catalogue_is_filled_again_from_its_files(demo: Api, stranger: Api) -> None:
    files = {table: file_of(demo, table) for table in TABLES}
    before = demo.get("/catalogue")
    for table, content in files.items():
        assert len(send(stranger, "import", table, content)["added"]) == len(read_table(content).rows)

    def without_ids(document: Any) -> Any:
        drop = {"id", "currency"}
        if isinstance(document, dict):
            return {name: without_ids(value) for name, value in document.items() if name not in drop}
        return [without_ids(entry) for entry in document] if isinstance(document, list) else document

    assert without_ids(stranger.get("/catalogue")) == without_ids(before)


def test_rows_are_added_and_changed_by_name(demo: Api) -> None:
    content = edited(file_of(demo, "fluids"), 3, "dry boiling point, °C", "261")
    content += "Moor 4;".replace(";", ",").encode() + b"DOT 4,estimate,250,160,9\r\n"
    found = send(demo, "read", "fluids", content)
    assert (found["added"], found["changed"], found["same"]) == (["Moor 4"], ["Beck 4"], 4)
    assert not Fluid.objects.filter(name="Moor 4").exists()
    assert send(demo, "import", "fluids", content)["written"]
    assert Fluid.objects.get(name="Beck 4").dry_C == 261
    # Changed friction is what the machines drive with from now on.
    compounds = edited(
        file_of(demo, "compounds"), 2, "friction (°C=mu source; ... or two letters)", "0=0.2 measured; 400=0.15"
    )
    send(demo, "import", "compounds", compounds)
    pad = Pad.objects.get(name=read_table(compounds).rows[0][1][0])
    assert [(point.temperature_C, point.mu, point.provenance) for point in pad.mu_points.all()] == [
        (0.0, 0.2, "measured"),
        (400.0, 0.15, "estimate"),
    ]


def test_a_rotor_that_came_in_is_offered_to_the_machines_it_fits(demo: Api) -> None:
    roadster = f"/machines/{demo.machine('Kit roadster')['id']}/candidates"
    before = demo.post(roadster, {})["total"]
    table = read_table(file_of(demo, "rotors"))
    name = list(table.rows[0][1])
    name[0] = "Tarn 260 curved"
    send(demo, "import", "rotors", write_csv(table.headings, [name]))
    found = demo.post(roadster, {})
    assert found["total"] == before * 6 // 5
    assert "Tarn 260 curved" in {row["front_rotor"] for row in [*found["ranked"], *found["rejected"]]}


@pytest.mark.parametrize(
    ("table", "heading", "value", "said"),
    [
        ("rotors", "discard thickness, mm", "21", "less than thickness_m"),
        ("rotors", "inner radius of band, mm", "131", "less than outer_radius_m"),
        ("fluids", "wet boiling point, °C", "240", "less than dry_C"),
        ("compounds", "window to, °C", "-20", "less than window_high_C"),
        ("compounds", "bedding to, °C", "100", "less than bed_high_C"),
        ("pad shapes", "compound", "Unheard Of", "a compound of the catalogue"),
    ],
)
def test_what_does_not_go_together_is_said_by_row(demo: Api, table: str, heading: str, value: str, said: str) -> None:
    content = edited(file_of(demo, table), 2, heading, value)
    (error,) = send(demo, "read", table, content)["errors"]
    assert error["row"] == 2
    assert said in error["allowed"]


def test_one_wrong_row_keeps_the_whole_file_out(demo: Api) -> None:
    content = edited(edited(file_of(demo, "rotors"), 3, "price of one", "999"), 5, "vanes", "many")
    problem = send(demo, "import", "rotors", content, status=422)
    assert_problem(problem, 422, "file", "row 5, vanes")
    assert not Rotor.objects.filter(price=999).exists()


def test_a_mapping_step_for_other_headings(demo: Api) -> None:
    content = b"Brand name,Kind,Boils dry,Boils wet,Cost\nMoor 4,DOT 4,250,160,9\n"
    look = send(demo, "look", "fluids", content)
    assert look["headings"] == ["Brand name", "Kind", "Boils dry", "Boils wet", "Cost"]
    assert look["mapping"] == {}
    assert look["sample"] == [["Moor 4", "DOT 4", "250", "160", "9"]]
    assert [column["field"] for column in look["columns"] if column["needed"]] == [
        "name",
        "standard",
        "dry_C",
        "wet_C",
        "price",
    ]
    assert_problem(send(demo, "read", "fluids", content, {}, 422), 422, "mapping.name")
    mapping = {"name": "Brand name", "standard": "Kind", "dry_C": "Boils dry", "wet_C": "Boils wet", "price": "Cost"}
    assert send(demo, "read", "fluids", content, mapping)["added"] == ["Moor 4"]
    assert_problem(send(demo, "read", "fluids", content, {**mapping, "price": "Colour"}, 422), 422, "mapping.price")


def test_parts_of_one_machine_stay_out_of_the_files(demo: Api) -> None:
    roadster = f"/machines/{demo.machine('Kit roadster')['id']}"
    before = {table: file_of(demo, table) for table in ("rotors", "pad shapes")}
    demo.patch(f"{roadster}/parts", {"changes": {"front.rotor.thickness_m": 0.0198, "front.pad.thickness_m": 0.0091}})
    assert demo.get(f"{roadster}/parts")["own"] == ["front.rotor", "front.pad"]
    assert {table: file_of(demo, table) for table in before} == before


def test_wrong_names_and_files(demo: Api) -> None:
    assert_problem(demo.get("/catalogue/file/wheels/csv", 422), 422, "table")
    assert_problem(demo.get("/catalogue/file/rotors/pdf", 422), 422, "kind")
    assert_problem(send(demo, "look", "rotors", b"PK broken", status=422), 422, "file")
    assert_problem(send(demo, "look", "wheels", b"a,b\n1,2\n", status=422), 422)
    sheet = write_sheet("x", ["fluid"], [["a"]])
    assert send(demo, "look", "fluids", sheet)["mapping"] == {"name": "fluid"}


# --- one part by form --------------------------------------------------------------------------------------------------


def test_a_part_is_opened_as_text_changed_and_renamed(demo: Api) -> None:
    part = demo.get("/catalogue/part/rotors?name=Tarn 260 slotted&second=RB-260")
    assert part["cells"]["vane_shape"] == "directional"
    cells = {**part["cells"], "name": "Tarn 260 grooved", "price": "99.5", "mass_kg": ""}
    before = {"name": "Tarn 260 slotted", "mount": "RB-260"}
    kept = demo.put("/catalogue/part", {"table": "rotors", "cells": cells, "before": before})
    assert (kept["added"], kept["changed"]) == ([], ["Tarn 260 grooved, RB-260"])
    rows = {row["name"]: row for row in demo.get("/catalogue")["rotors"]}
    assert "Tarn 260 slotted" not in rows
    assert (rows["Tarn 260 grooved"]["price"], rows["Tarn 260 grooved"]["mass_kg"]) == (99.5, None)
    assert len(rows) == 21


def test_a_compound_is_added_from_an_empty_form_and_offered_once_it_has_a_shape(demo: Api) -> None:
    empty = demo.get("/catalogue/part/compounds")
    assert empty["cells"]["name"] == ""
    assert next(column for column in empty["columns"] if column["field"] == "family")["words"][0] == "organic"
    like = demo.get("/catalogue/part/compounds?name=Fellmark R4")["cells"]
    demo.put(
        "/catalogue/part", {"table": "compounds", "cells": {**like, "name": "Fellmark R5", "mu": "0=0,3; 400=0,52"}}
    )
    shape = demo.get("/catalogue/part/pad shapes?name=Fellmark R4&second=RF-36")["cells"]
    demo.put("/catalogue/part", {"table": "pad shapes", "cells": {**shape, "pad": "Fellmark R5"}})
    rear = demo.get("/catalogue/part/pad shapes?name=Fellmark R4&second=RR-26")["cells"]
    demo.put("/catalogue/part", {"table": "pad shapes", "cells": {**rear, "pad": "Fellmark R5"}})
    machine = demo.machine("Kit roadster")["id"]
    choice = demo.post(f"/machines/{machine}/candidates", {})
    assert "Fellmark R5" in {row["pad"] for row in choice["ranked"] + choice["rejected"]}


@pytest.mark.parametrize(
    ("table", "changes", "before", "field"),
    [
        ("rotors", {"thickness_m": "thick"}, {}, "cells.thickness_m"),
        ("rotors", {}, {}, "cells.name"),
        ("rotors", {"gap_m": "0", "vanes": "0", "vane_thickness_m": "0", "name": "New"}, {}, "cells.vane_shape"),
        ("rotors", {"name": "Tarn 260 plain"}, {"name": "Tarn 260 slotted", "mount": "RB-260"}, "cells.name"),
        ("rotors", {"colour": "red"}, {}, "cells.colour"),
    ],
)
def test_a_cell_that_is_not_allowed_is_named_and_nothing_is_written(
    demo: Api, table: str, changes: dict[str, str], before: dict[str, str], field: str
) -> None:
    cells = demo.get(f"/catalogue/part/{table}?name=Tarn 260 slotted&second=RB-260")["cells"]
    was = file_of(demo, table)
    asked = {"table": table, "cells": {**cells, **changes}, "before": before}
    assert_problem(demo.put("/catalogue/part", asked, status=422), 422, field)
    assert file_of(demo, table) == was
    demo.get("/catalogue/part/rotors?name=Nobody", status=404)


# --- readings of one's own ---------------------------------------------------------------------------------------------


def test_own_readings_stand_beside_the_curve_and_count_when_asked_to(demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    fitted = demo.post(f"{machine}/friction", {"pedal_N": 150, "decel_mps2": 6, "speed_mps": 20})
    assert 0.1 < fitted["mu"] < 1
    pad = f"/catalogue/compounds/{fitted['pad_id']}"
    assert_problem(demo.put(f"{pad}/use-own", {"use_own": True}, status=422), 422, "use_own")
    curve = demo.post(
        f"{pad}/readings", {"temperature_C": 200, "mu": 0.3, "measured_on": "2026-11-20", "how": "pedal gauge"}
    )
    (reading,) = curve["own"]
    assert curve["own_ratio"] == pytest.approx(0.3 / reading["curve_mu"])
    before = demo.post(f"{machine}/why/cold_mu", {})["numbers"]
    assert demo.put(f"{pad}/use-own", {"use_own": True})["use_own"]
    after = demo.post(f"{machine}/why/cold_mu", {})["numbers"]
    cold = [float(metric(said).rsplit(": ", 1)[1].split(" ")[0]) for said in (before, after)]
    assert cold[1] == pytest.approx(cold[0] * curve["own_ratio"], abs=0.002)
    gone = demo.put(f"/catalogue/readings/{reading['id']}/removed", {"removed": True})
    assert (gone["own"], gone["own_ratio"]) == ([], 1.0)
    assert demo.post(f"{machine}/why/cold_mu", {})["numbers"] == before
    for wrong, field in (({"mu": 0}, "mu"), ({"temperature_C": 9999}, "temperature_C")):
        asked = {"temperature_C": 200, "mu": 0.3, "measured_on": "2026-11-20", **wrong}
        assert_problem(demo.post(f"{pad}/readings", asked, status=422), 422, field)


# --- the parts counter -------------------------------------------------------------------------------------------------


def test_a_set_at_the_counter_says_sides_stock_and_when(demo: Api) -> None:
    machine = f"/machines/{demo.machine('Kit roadster')['id']}"
    choice = demo.post(f"{machine}/candidates", {})
    rows = choice["ranked"] + choice["rejected"]
    row = next(
        row for row in rows if row["front_rotor"] == "Tarn 260 slotted" and row["rear_rotor"] == "Tarn 240 solid"
    )
    found = demo.post(f"{machine}/sets/parts", {"key": row["key"]})
    kinds = {line["kind"]: line for line in found["lines"]}
    # The rear rotors are on it already.
    assert set(kinds) == {"pads, front axle", "pads, rear axle", "rotors, front"}
    assert kinds["rotors, front"]["count"] == 2
    assert "one left and one right" in kinds["rotors, front"]["note"]
    assert found["list_total"] == pytest.approx(row["pads_price"] + 2 * kinds["rotors, front"]["list_price"])
    assert found["total"] == pytest.approx(sum(line["count"] * line["price"] for line in found["lines"]))
    waits = [line["lead_days"] for line in found["lines"] if line["in_stock"] < line["count"]]
    assert found["ready_on"] == (today() + dt.timedelta(days=max(waits, default=0))).isoformat()
    assert_problem(demo.post(f"{machine}/sets/parts", {"key": "1-1-1-1"}, status=422), 422, "key")
