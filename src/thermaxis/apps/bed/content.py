"""A bedding plan as it is stored and shown."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Any, Literal

from typing_extensions import TypedDict

from thermaxis.apps.accounts.shaped import Number
from thermaxis.apps.fitted.parts import AXLES
from thermaxis.core.planning.bedding.schools import Plan, schools
from thermaxis.core.planning.bedding.setting import Setting


class Asked(TypedDict):
    """For which road a plan was made, and by which procedure."""

    school: Literal[tuple(schools())]  # type: ignore[valid-type]
    top_speed_mps: Number
    hard_g: Number


def content_of(plan: Plan, setting: Setting) -> dict[str, Any]:
    """A plan with both windows, plain; what its duty is follows from its rows."""
    content = dataclasses.asdict(dataclasses.replace(plan, duty=None))
    windows = {axle: dataclasses.asdict(getattr(setting, axle)) for axle in AXLES}
    return {**content, "windows": windows, "rider": setting.motorcycle}


def worn_m(content: Mapping[str, Any], axle: str) -> float:
    """What a stored plan wears off the pads of an axle, in m; older ones say mm. KeyError for neither."""
    here = f"wear_{axle}_m"
    return float(content[here] if here in content else 1e-3 * content[f"wear_{axle}_mm"])
