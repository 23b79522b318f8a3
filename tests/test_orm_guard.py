"""The guard that keeps keys of a request out of the ORM: it finds what it is for, and there is nothing to find."""

from __future__ import annotations

import pytest

from tools.orm_guard import faults, main

MODELS = "from thermaxis.apps.catalogue.models import Fluid\n"


@pytest.mark.parametrize(
    "line",
    [
        "rows.filter(workshop=w, **before)",
        "rows.exclude(**body)",
        "rows.update(**now)",
        "Q(**x)",
        "rows.get(**ask.dict())",
        "Fluid.objects.update_or_create(workshop=w, **key)",
        "Fluid(workshop=w, **payload.dict())",
        "models.Fluid(**row)",
        "rows.create(**{name: v for name, v in body.items()})",
        "rows.create(**{key: body[key] for key in columns})",
        "get_object_or_404(Fluid, **found)",
        "rows.order_by(*names)",
        "rows.values(*body)",
        "rows.annotate(**{k: 1})",
    ],
)
def test_unpacking_what_nobody_can_read_there_is_a_fault(line: str) -> None:
    assert len(list(faults(MODELS + line))) == 1


@pytest.mark.parametrize(
    "line",
    [
        "rows.filter(workshop=w, name=before['name'])",
        "rows.order_by('-pk')",
        "record(**body)",
        "Fluid(**{name: values[name] for name in COLUMNS})",
        "rows.create(**{name: v[name] for name in mapping.AXLE})",
        "rows.prefetch_related(*body)",
        "rows.only(*FIELDS)",
        "rows.filter(**{'name': value})",
    ],
)
def test_what_can_be_read_at_the_call_is_none(line: str) -> None:
    assert list(faults(MODELS + line)) == []


def test_there_is_none_in_the_application(capsys: pytest.CaptureFixture[str]) -> None:
    assert main() == 0, capsys.readouterr().out
