"""Kept decisions and shortlists: what is stored is what was shown. SI, the unit in the name."""

from __future__ import annotations

import datetime as dt
from typing import Literal

from pydantic import Field

from thermaxis.apps.accounts.api.base import Wire
from thermaxis.apps.accounts.api.said import SaidOut
from thermaxis.apps.choose.api.schemas import Key, OfferAsk, WeightsIO, WholeCandidate
from thermaxis.apps.solving.api.schemas import LeversOut, WhatIf

Place = Literal["front_pads", "front_rotors", "rear_pads", "rear_rotors"]


class DecidedSet(WholeCandidate):
    """A set as it stood in the list: its place (null: rejected) and how likely it crosses a limit."""

    place: int | None
    chosen: bool
    any_probability: float


class DecidedRejection(Wire):
    pads: str
    rotors: str
    rejected_for: str
    reason: SaidOut


class DecidedInput(Wire):
    """One number of the machine, SI, by its path."""

    path: str
    value: float | None
    estimate: bool


class DecisionContent(Wire):
    """Everything the page needs to be read a year later, whatever has become of machine and catalogue."""

    machine: str
    machine_note: str
    duty: str
    duty_note: str
    event_km: float
    event_hours: float
    events_per_month: float
    currency: str
    fluid: str
    fluid_age_months: float
    boiling_C: float
    total: int
    passing: int
    draws: int
    mixed: bool
    weights: WeightsIO
    what_if: WhatIf
    levers: LeversOut
    sets: list[DecidedSet]
    rejected: list[DecidedRejection]
    inputs: list[DecidedInput]
    assumptions: list[str]


class FitAsk(OfferAsk):
    """The set to fit; with the weights of the list it was picked from, so that its place can be kept.

    `renew` is what is put on new although the same is on: only what differs is changed otherwise.
    """

    key: str = Field(min_length=1, max_length=80)
    reason: str = Field("", max_length=2000)
    weights: WeightsIO | None = None
    renew: list[Place] = Field(default=[], max_length=4)
    # When it went on, where that was before today.
    on: dt.date | None = None
    odometer_km: float | None = Field(None, ge=0, le=5_000_000, allow_inf_nan=False)


class DecisionAsk(OfferAsk):
    """Which sets to keep, in this order, and what to say about them."""

    keys: list[Key] = Field(min_length=1, max_length=4)
    weights: WeightsIO | None = None
    title: str = Field(min_length=1, max_length=120)
    note: str = Field("", max_length=2000)


class DecisionRow(Wire):
    """One line of the list; `fitted` where its first set was put on by it."""

    id: int
    title: str
    made_at: dt.datetime
    fitted: bool
    shared: bool
    removed: bool


class DecisionOut(DecisionRow):
    """`token` is the end of the address at which anybody may read it; empty while it is not shared."""

    note: str
    token: str
    share_notes: bool
    engine_version: str
    content: DecisionContent


class SharedOut(Wire):
    """A shared decision as anybody with its address reads it; notes are empty unless they are shared too."""

    title: str
    note: str
    workshop: str
    made_at: dt.datetime
    fitted: bool
    engine_version: str
    content: DecisionContent


class SharedAsk(Wire):
    """`notes` lets readers see what was noted of decision, machine and duty."""

    shared: bool
    notes: bool = False
