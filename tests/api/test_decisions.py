"""Decisions kept, read, shared and printed: they say what was shown, whatever becomes of machine and catalogue."""

from __future__ import annotations

import re
from typing import Any

import pytest
from django.test import Client

from tests.said import metric
from tests.workshop import Api, assert_problem
from thermaxis import __version__
from thermaxis.apps.accounts.models import Workshop
from thermaxis.apps.catalogue.models import Pad
from thermaxis.formats import decision_pdf, pdf_sheet


@pytest.fixture
def kept(demo: Api, relay_roadster: str) -> dict[str, Any]:
    choice = demo.post(f"{relay_roadster}/candidates", {"extra_mass_kg": 40})
    keys = [choice["ranked"][0]["key"], choice["rejected"][0]["key"]]
    asked = {"keys": keys, "title": "For the autumn relay", "note": "Ask about μ at 20 °C", "extra_mass_kg": 40}
    found: dict[str, Any] = demo.post(f"{relay_roadster}/decisions", asked, status=201)
    return found


def test_what_is_kept_is_what_was_shown(demo: Api, relay_roadster: str, kept: dict[str, Any]) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {"extra_mass_kg": 40})
    content = kept["content"]
    best, out = content["sets"]
    assert {name: best[name] for name in choice["ranked"][0]} == choice["ranked"][0]
    assert (best["place"], out["place"], best["chosen"]) == (1, None, False)
    assert best["any_probability"] < out["any_probability"]
    assert (content["total"], content["passing"]) == (choice["total"], len(choice["ranked"]))
    assert content["what_if"]["extra_mass_kg"] == 40
    assert content["levers"]["mass_kg"] == 690
    never = {row["pads"] for row in choice["rejected"]} - {row["pads"] for row in choice["ranked"]}
    assert {row["pads"] for row in content["rejected"]} == never != set()
    assert next(row for row in content["inputs"] if row["path"] == "vehicle.mass_kg")["value"] == 730
    assert kept["engine_version"] == __version__
    assert not kept["fitted"]


def test_a_set_up_that_does_not_fit_says_nothing_about_the_pads_in_it(
    demo: Api, relay_roadster: str, kept: dict[str, Any]
) -> None:
    plates = {"name": "Plates", "changes": {"front.rotor.outer_radius_m": 0.2}}
    demo.post(f"{relay_roadster}/set-ups", plates, status=201)
    asked = {"keys": [kept["content"]["sets"][0]["key"]], "title": "With plates", "extra_mass_kg": 40}
    content = demo.post(f"{relay_roadster}/decisions", asked, status=201)["content"]
    assert content["total"] > kept["content"]["total"]
    assert content["rejected"] == kept["content"]["rejected"]


def test_a_year_later_it_reads_the_same(
    demo: Api, relay_roadster: str, kept: dict[str, Any], workshop: Workshop
) -> None:
    demo.patch(relay_roadster, {"changes": {"vehicle.mass_kg": 900}})
    for pad in Pad.objects.of(workshop):
        Pad.objects.filter(pk=pad.pk).update(name=f"Renamed {pad.pk}", window_high_C=300)
    again = demo.get(f"/decisions/{kept['id']}")
    assert again["content"] == kept["content"]
    assert again["note"] == "Ask about μ at 20 °C"
    assert [row["title"] for row in demo.get(f"{relay_roadster}/decisions")] == ["For the autumn relay"]


def test_fitting_keeps_its_decision_with_the_next_best_beside_it(demo: Api, relay_roadster: str) -> None:
    choice = demo.post(f"{relay_roadster}/candidates", {})
    second = choice["ranked"][1]
    demo.post(f"{relay_roadster}/set", {"key": second["key"], "reason": metric(second["reason"])})
    (row,) = demo.get(f"{relay_roadster}/decisions")
    assert row["fitted"]
    content = demo.get(f"/decisions/{row['id']}")["content"]
    chosen, *beside = content["sets"]
    assert (chosen["key"], chosen["place"], chosen["chosen"]) == (second["key"], 2, True)
    assert len(beside) == 2
    assert beside[0]["place"] == 1
    # Taking the fitting back leaves the decision as a shortlist.
    demo.call("delete", f"{relay_roadster}/set")
    assert not demo.get(f"{relay_roadster}/decisions")[0]["fitted"]


def test_only_who_has_the_address_reads_it_and_only_while_it_is_shared(
    demo: Api, relay_roadster: str, kept: dict[str, Any], stranger: Api
) -> None:
    anybody = Client()
    assert kept["token"] == ""
    shared = demo.put(f"/decisions/{kept['id']}/shared", {"shared": True})
    token = shared["token"]
    assert len(token) >= 32
    read = anybody.get(f"/api/shared/{token}")
    assert read.status_code == 200
    document = read.json()
    # Notes stay in the workshop until they are ticked, and nobody on the way keeps a copy.
    assert (document["note"], document["content"]["machine_note"], document["content"]["duty_note"]) == ("", "", "")
    assert {**document["content"], "machine_note": 1, "duty_note": 1} == {
        **kept["content"],
        "machine_note": 1,
        "duty_note": 1,
    }
    assert read["Cache-Control"] == "no-store"
    assert demo.put(f"/decisions/{kept['id']}/shared", {"shared": True, "notes": True})["token"] == token
    assert anybody.get(f"/api/shared/{token}").json()["content"] == kept["content"]
    # It ends with the machine, and is there again with it.
    demo.put(f"{relay_roadster}/removed", {"removed": True}, status=204)
    assert [anybody.get(f"/api/shared/{token}{end}").status_code for end in ("", "/pdf")] == [404, 404]
    demo.put(f"{relay_roadster}/removed", {"removed": False}, status=204)
    assert not {"id", "token", "machine_id", "owner"} & set(document)
    printed = anybody.get(f"/api/shared/{token}/pdf")
    assert printed["Content-Type"] == "application/pdf"
    for address in (f"/decisions/{kept['id']}", f"/decisions/{kept['id']}/pdf"):
        assert_problem(stranger.get(address, status=404), 404)
    demo.put(f"/decisions/{kept['id']}/shared", {"shared": False})
    assert anybody.get(f"/api/shared/{token}").status_code == 404
    again = demo.put(f"/decisions/{kept['id']}/shared", {"shared": True})["token"]
    assert again != token
    demo.put(f"/decisions/{kept['id']}/removed", {"removed": True})
    assert anybody.get(f"/api/shared/{again}").status_code == 404
    assert_problem(demo.put(f"/decisions/{kept['id']}/shared", {"shared": True}, status=422), 422, "shared")
    assert not demo.put(f"/decisions/{kept['id']}/removed", {"removed": False})["removed"]


def test_the_printed_sheet_says_every_set_its_reason_and_the_caution(
    demo: Api, kept: dict[str, Any], monkeypatch: pytest.MonkeyPatch
) -> None:
    said: list[str] = []
    say, grid = pdf_sheet.Sheet.say, pdf_sheet.Sheet.grid

    def heard(self: Any, text: str, *rest: Any, **named: Any) -> None:
        said.append(text)
        say(self, text, *rest, **named)

    def seen(self: Any, rows: Any, *rest: Any) -> None:
        said.extend(" ".join(row) for row in rows)
        grid(self, rows, *rest)

    monkeypatch.setattr(pdf_sheet.Sheet, "say", heard)
    monkeypatch.setattr(pdf_sheet.Sheet, "grid", seen)
    response = demo.client.get(f"/api/decisions/{kept['id']}/pdf")
    assert response.content.startswith(b"%PDF-")
    assert 1 <= response.content.count(b"/Type /Page\n") <= 3
    text = "\n".join(said)
    for entry in kept["content"]["sets"]:
        assert metric(entry["reason"]) in text
        assert f"{entry['front']['peak_C']:.0f} °C" in text
    for expected in (
        "Ask about μ at 20 °C",
        "extra mass kg 40.0",
        decision_pdf.CAUTION,
        __version__,
        "vehicle.mass_kg = 730",
    ):
        assert expected in text

    # In the reader's units, its sentences too; the machine's numbers keep those of their names.
    said.clear()
    demo.client.get(f"/api/decisions/{kept['id']}/pdf?units=imperial")
    text = "\n".join(said)
    for entry in kept["content"]["sets"]:
        assert f"{entry['front']['peak_C'] * 1.8 + 32:.0f} °F" in text
        assert f"{entry['pedal_worst_N'] * 0.224809:.0f} lbf" in text
    assert not re.search(r"\d (°C|K|N)\b", text.replace(kept["note"], ""))
    assert "vehicle.mass_kg = 730" in text
    assert_problem(demo.get(f"/decisions/{kept['id']}/pdf?units=furlongs", status=422), 422, "units")


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"keys": ["1-1-1-1"], "title": "x"}, "keys[0]"),
        ({"keys": [], "title": "x"}, "keys"),
        ({"keys": ["a"], "title": ""}, "title"),
    ],
)
def test_a_shortlist_of_nothing_is_refused(demo: Api, relay_roadster: str, asked: dict[str, Any], field: str) -> None:
    assert_problem(demo.post(f"{relay_roadster}/decisions", asked, status=422), 422, field)
    assert demo.get(f"{relay_roadster}/decisions") == []
