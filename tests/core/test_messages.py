"""Every sentence in both systems of units, and what a sentence may be."""

from __future__ import annotations

import ast
import json
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.said import HERE, rendered, sample, samples, sentences
from tests.test_house import modules
from thermaxis.core.said import PLACE, Said, Sentence, quantities
from thermaxis.formats.units import System, said_of, said_text, worded

SYSTEMS: tuple[System, ...] = ("metric", "imperial")
METRIC = re.compile(r"(?<![\w.])(°C|K|mm|cm²|cm³|µm|km/h|MPa|GPa|N|N m|kg|km|m)(?![\w/²³])")
# A figure baked into words, or a unit that would stand whatever the reader's units are.
BAKED = re.compile(r"°C|°F|\b(km/h|mph|MPa|psi|lbf|micrometres)\b|[\d}] ?(K|N|mm|kg|km|µm|lb)\b")


@pytest.mark.parametrize("name", sentences())
def test_no_sentence_has_a_unit_of_its_own(name: str) -> None:
    sentence = sentences()[name]
    assert not BAKED.search(PLACE.sub("", sentence.template)), sentence.template
    metric, imperial = (said_text(sample(sentence, 123.456), system) for system in SYSTEMS)
    assert not METRIC.search(imperial), imperial
    assert "{" not in metric + imperial
    # Where a quantity has another unit in the other system, the reader sees another text.
    units = [quantities()[kind] for kind, _ in sentence.places.values() if kind]
    assert metric != imperial or all(unit["metric"] == unit["imperial"] for unit in units)


def test_both_renderers_are_held_to_the_same_texts() -> None:
    # The page's renderer reads this file too: web/src/lib/said.test.ts. `python -m tests.said` writes it.
    assert json.loads(HERE.read_text("utf-8")) == json.loads(json.dumps(rendered()))


def test_no_part_of_the_core_or_the_house_bakes_a_quantity_into_words() -> None:
    found = []
    for path, tree in modules("**/*.py"):
        # Files are written in a unit of their own, and say so; an error names the field as it is on the wire.
        if path.startswith(("formats/", "cli", "devices/", "core/messages/")):
            continue
        for node in ast.walk(tree):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") in ("FieldError", "SolveError"):
                node.args, node.keywords = [], []
        for node in ast.walk(tree):
            if isinstance(node, ast.JoinedStr):
                text = "".join(str(part.value) if isinstance(part, ast.Constant) else "}" for part in node.values)
                found += [(path, text)] if BAKED.search(text) else []
    assert found == []


def test_published_conversions() -> None:
    # NIST SP 811: exact or to the figures shown.
    for kind, value, text in (
        ("temperature", 100.0, "212 °F"),
        ("temperatureChange", 100.0, "180 °F"),
        ("speed", 26.8224, "60 mph"),
        ("mass", 453.59237, "1000 lb"),
        ("force", 444.8222, "100 lbf"),
        ("pressure", 6.894757e6, "1000 psi"),
        ("torque", 135.5818, "100 lbf ft"),
        ("reading", 0.0254, "1.0000 in"),
        ("area", 6.4516e-4, "1.00 in²"),
        ("volume", 1.6387064e-5, "1.000 in³"),
        ("distance", 1609.344, "1000 mi"),
    ):
        assert said_text(Sentence(f"{{value:{kind}}}")(value=value), "imperial") == text


def test_figures_by_hand() -> None:
    said = Sentence("{a:temperature|bare} to {b:temperature}, {c:plain|up} {d:plain|down} {e:plain|two} {f:events}")
    values = {"a": 280.4, "b": 449.5, "c": 1.2301, "d": 1.2301, "e": 1234.5, "f": 9.96}
    assert said_text(said(**values), "metric") == "280 to 450 °C, 1.3 1.2 1200 10.0"
    assert said_text(said(**values), "imperial") == "537 to 841 °F, 1.3 1.2 1200 10.0"
    assert said_text(Sentence("{km:distance}")(km=31250.0)) == "31\u202f250 km"
    assert said_text(Sentence("{x:temperature}")(x=-0.2)) == "0 °C"
    # What never comes has no figure.
    assert said_text(Sentence("{money}{an_hour:finePrice} an hour")(money="£", an_hour=float("inf"))) == "£∞ an hour"


@given(value=st.floats(1e-6, 1e6), kind=st.sampled_from(sorted(quantities())), way=st.sampled_from(["up", "down"]))
def test_a_bound_is_never_rounded_to_its_unsafe_side(value: float, kind: str, way: str) -> None:
    for system in SYSTEMS:
        unit = quantities()[kind][system]
        exact = value * unit["factor"] + unit.get("offset", 0.0)
        text = said_text(Sentence(f"{{x:{kind}|{way}}}")(x=value), system).replace("\u202f", "")
        shown = float(text.split(" ")[0])
        slack = 1e-5 * abs(exact)
        assert exact - slack <= shown if way == "up" else shown <= exact + slack
        assert shown == pytest.approx(exact, rel=0.101)


def test_what_a_sentence_refuses() -> None:
    for template in ("{peak:heat}", "{peak:temperature|and}", "{parts|bare}", "{peak:temperature", "{a b}"):
        with pytest.raises(ValueError, match=re.escape(template)):
            Sentence(template)
    reaches = Sentence("{axle} reaches {peak:temperature}")
    for values in ({"axle": "front"}, {"axle": "front", "peak": 1.0, "more": 2.0}, {"axle": 1.0, "peak": 1.0}):
        with pytest.raises(TypeError, match="reaches"):
            reaches(**values)


def test_a_sentence_comes_back_from_json_as_it_was() -> None:
    for said in samples():
        assert said_text(said_of(json.loads(json.dumps(rendered_one(said))))) == said_text(said)
    nested = Sentence("{reason}.")(reason=Sentence("at {hot:temperature}")(hot=90.0))
    document = {"rows": [{"why": rendered_one(nested)}], "name": "kept"}
    assert worded(document) == {"rows": [{"why": "at 90 °C."}], "name": "kept"}
    assert said_text(Sentence("{clause|capital}.")(clause=nested)) == "At 90 °C.."


def rendered_one(said: Said) -> dict[str, object]:
    return {
        "template": said.template,
        "values": {
            name: rendered_one(value)
            if isinstance(value, Said)
            else [rendered_one(part) for part in value]
            if isinstance(value, list)
            else value
            for name, value in said.values.items()
        },
    }
