"""A recorded drive as the bedding of what is on a machine."""

from __future__ import annotations

from thermaxis.apps.fitted.standing import Standing
from thermaxis.apps.garage.duty_mapping import trace_of
from thermaxis.apps.garage.models import RecordedRun
from thermaxis.apps.solving.bedding import setting_of
from thermaxis.core.planning.bedding.proof import Proof, prove
from thermaxis.core.planning.bedding.setting import Road

# What the road allowed does not matter for what was driven.
DRIVEN = Road(top_speed_mps=70.0, hard_g=1.2)


def prove_run(standing: Standing, run: RecordedRun) -> Proof:
    """What a recorded drive did to the pads that are on."""
    return prove(setting_of(standing, DRIVEN), trace_of(run.trace))
