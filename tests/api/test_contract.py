"""The contract: the committed schema, its fuzzing, who may see what, and every error as a problem document."""

from __future__ import annotations

import json
from pathlib import Path

from django.test import Client
from django.urls import resolve

from tests.api.rows import OPEN
from tests.workshop import Api, assert_problem
from thermaxis.api.mount import api
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.workshop.management.commands.write_schema import schema_text

ROOT = Path(__file__).parents[2]


def test_the_committed_schema_is_the_code_s() -> None:
    assert (ROOT / "openapi.json").read_text("utf-8") == schema_text(), "run `make schema` and commit openapi.json"


def test_every_operation_has_an_explicit_short_name_and_its_problems() -> None:
    schema = json.loads(schema_text())
    names = [operation["operationId"] for methods in schema["paths"].values() for operation in methods.values()]
    assert len(names) == len(set(names)) >= 20
    assert all(name.isidentifier() and len(name) < 25 for name in names)
    for methods in schema["paths"].values():
        for operation in methods.values():
            assert operation["responses"]["default"] == {"$ref": "#/components/responses/Problem"}
    assert list(schema["components"]["responses"]["Problem"]["content"]) == ["application/problem+json"]


def test_units_are_in_the_names() -> None:
    """A number on the wire is a share, a count, a score or has its unit in its name."""
    plain = {
        "need",
        "minutes",
        "volts",
        "ticked",
        "steps",
        "place",
        "strokes",
        "refill_after",
        "own_jobs",
        "parts_price",
        "consumables_price",
        "total_price",
        "per_1000_km_price",
        "per_hour_price",
        "quote",
        "job_id",
        "pad_set_id",
        "seed",
        "have",
        "old",
        "new",
        "may_differ",
        "measured",
        "level",
        "after",
        "sides",
        "id",
        "laps",
        "cool_down_laps",
        "events_per_month",
        "machine_id",
        "trailer_brake_share",
        "compounds",
        "rotors",
        "grade_factor",
        "length_factor",
        "duty_id",
        "value",
        "limit",
        "fill",
        "notch",
        "change",
        "score",
        "total",
        "number",
        "stops",
        "events",
        "events_p10",
        "events_p90",
        "wear_scale",
        "backing",
        "backing_sigma",
        "front_adhesion",
        "rear_adhesion",
        "front_installed",
        "rear_installed",
        "front_ideal",
        "rear_ideal",
        "braking_share",
        "window_share",
        "life_events",
        "cost_per_hour",
        "pads_price",
        "front_fraction",
        "cooling_factor",
        "profile",
        "status",
        "heat_margin",
        "cold_bite",
        "pad_life",
        "quiet",
        "clean_wheels",
        "cost",
        "p10",
        "p50",
        "p90",
        "fill_low",
        "fill_high",
        "variance_share",
        "probability",
        "draws",
        "low",
        "high",
        "cooling",
        "cooling_sigma",
        "pad_heat",
        "pad_heat_sigma",
        "correlation",
        "calibration_id",
        "done_share",
        "front_share",
        "traffic",
        "chance",
        "photos",
        "row",
        "taken_in",
        "machines",
        "rows",
        "open_jobs",
        "due_soon",
        "to_order",
        "parts_waiting",
        "price_per_event",
        "price_per_1000km",
        "sure_share",
        "entry_id",
        "before_id",
        "every_days",
        "lead_days",
        "left",
        "until",
        "until_low",
        "until_high",
        "readings",
        "inside",
        "sessions",
        "driven_sessions",
        "version",
        "times",
        "before",
        "lost",
        "risk",
        "quantity",
        "price",
        "water_share",
        "thing_id",
        "event_id",
        "front_pads_id",
        "rear_pads_id",
        "fluid_id",
        "order_id",
        "variant_id",
        "rotor_id",
        "grade",
        "repeat",
        "days",
        "duct_factor",
        "circuit_id",
        "run_id",
        "known",
        "hottest_C",
        "lines",
        "line",
        "first_line",
        "column",
        "columns",
        "spikes",
        "gaps",
        "points",
        "bad",
        "bad_count",
        "seconds",
        "elements",
        "sections",
        "parts",
        "week",
        "conditions",
        "brakings",
        "share",
        "weight",
        "wanted",
        "given",
        "measurements",
        "inspection_id",
        "workshop_id",
        "seen",
        "kept",
        "photo_id",
        "stop",
        "set_up_price",
        "rotor_wear",
        "plan_id",
        "stretch",
        "inside_front",
        "inside_rear",
        "missing",
        "cooling_low",
        "cooling_high",
        "friction",
        "rotors_price",
        "cost_per_year",
        "cold_mu",
        "traces",
        "noise",
        "dust",
        "mu",
        "vanes",
        "same",
        "pedal",
        "extra_mass_kg",
        "repeats",
        "speed_factor",
        "fluid_age_months",
        "any_probability",
        "keys",
        "members",
        "roles",
        "addresses",
        "forgotten",
        "time_codes",
        "pictures",
        "age_months",
        "before_months",
        "boils_months",
        "change_months",
        "price_per_year",
        "passing",
        "decision_id",
        "curve_mu",
        "own_ratio",
        "own_sigma",
        "pad_id",
        "count",
        "list_price",
        "in_stock",
        "list_total",
        "reading_id",
        "member_id",
        "address_id",
        "open_session_id",
        "key_id",
        "codes_left",
        "ended",
        "bytes",
        "have_bytes",
        "size_bytes",
        "size",
        "offset",
    }
    units = {
        "C",
        "K",
        "N",
        "Nm",
        "Pa",
        "J",
        "W",
        "m",
        "s",
        "kg",
        "km",
        "g",
        "mps",
        "hours",
        "hour",
        "MJ",
        "event",
        "mps2",
        "m2",
        "m3",
        "Hz",
        "MPa",
    }
    for name, definition in json.loads(schema_text())["components"]["schemas"].items():
        for field, description in definition.get("properties", {}).items():
            if "number" in json.dumps(description) or "integer" in json.dumps(description):
                if field in ("values", "changes", "energy", "numbers", "logged", "items", "costs", "seen"):
                    continue  # dictionaries by field path, whose paths carry the unit
                if name == "FieldProblem":
                    continue  # bounds are in the unit of the field they are about
                assert field in plain or field.rsplit("_", 1)[-1] in units, f"{name}.{field}"


def test_nothing_is_shown_to_someone_not_signed_in(workshop: Workshop) -> None:
    client = Client()
    schema = json.loads(schema_text())
    for path, methods in schema["paths"].items():
        for method, operation in methods.items():
            if operation["operationId"] in OPEN:
                continue
            url = path.replace("{machine_id}", "1").replace("{duty_id}", "1").replace("{reading}", "rotor")
            url = url.replace("{plan_id}", "1").replace("{measurement_id}", "1").replace("{calibration_id}", "1")
            response = client.generic(method.upper(), url, "{}", content_type="application/json")
            assert response.status_code in (401, 403), (method, url, response.status_code)
    assert_problem(client.get("/api/machines").json(), 401)


def test_nothing_of_another_workshop_can_be_seen_or_touched(demo: Api, stranger: Api) -> None:
    machine = demo.machine("Kit roadster")["id"]
    assert stranger.get("/machines") == []
    assert stranger.get("/duties") == []
    duty = demo.duty("Street mix")
    what_if = {"cooling_factor": 1.0, "air_C": None}
    for method, path, body in (
        ("get", f"/machines/{machine}", None),
        ("patch", f"/machines/{machine}", {"changes": {"vehicle.mass_kg": 1.0}}),
        ("put", f"/machines/{machine}/duty", {"duty_id": duty}),
        ("post", f"/machines/{machine}/verdict", what_if),
        ("post", f"/machines/{machine}/candidates", what_if),
        ("get", f"/machines/{machine}/life", None),
        ("get", f"/machines/{machine}/duties/{duty}/trace", None),
    ):
        assert_problem(stranger.call(method, path, body, status=404), 404)
    assert demo.get(f"/machines/{machine}")["values"]["vehicle.mass_kg"] == 690


def test_writing_needs_the_csrf_token(workshop: Workshop, demo: Api) -> None:
    machine = demo.machine("Kit roadster")["id"]
    strict = Client(enforce_csrf_checks=True)
    strict.cookies = demo.client.cookies
    response = strict.patch(f"/api/machines/{machine}", data="{}", content_type="application/json")
    assert response.status_code == 403


def test_unknown_addresses_under_api_are_not_the_page() -> None:
    assert api.title == "Thermaxis"
    response = Client().get("/api/nowhere")
    assert_problem(response.json(), 404)
    assert response["Content-Type"] == "application/problem+json"
    assert resolve("/m/1/choose").func.__name__ == "page"
