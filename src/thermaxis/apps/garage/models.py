"""Machines with their axles and calipers, their owners, circuits and duties. Column names are those of the core."""

from __future__ import annotations

from typing import Literal, NotRequired

from django.conf import settings
from django.db import models
from typing_extensions import TypedDict

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import Number, Plain, ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField, PositiveFloatField
from thermaxis.apps.log.models import Removable, RemovableQuerySet, Versioned

Place = Literal["front_left", "front_right", "rear_left", "rear_right", "front", "rear"]


class Use(TypedDict):
    """What a column of a recorded run holds."""

    column: int
    role: Word
    unit: Word


class PartOfMass(TypedDict):
    """One part of a machine's mass; its height where it is known."""

    name: Word
    mass_kg: Number
    front_share: Number
    height_m: NotRequired[Number | None]


class Owner(Owned):
    name = models.CharField(max_length=120)
    # The member who drives their own machines, where the owner is one.
    user = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    objects = OwnedQuerySet.as_manager()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "name"], name="one_owner_of_a_name")]

    def __str__(self) -> str:
        return self.name


class Circuit(Owned, Versioned):
    name = models.CharField(max_length=120)
    closed = models.BooleanField(help_text="a lap that ends where it starts; otherwise a run from rest")
    objects = OwnedQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name


class CircuitElement(models.Model):
    """A straight (no radius) or a corner, in driving order."""

    circuit = models.ForeignKey(Circuit, on_delete=models.CASCADE, related_name="elements")
    order = models.PositiveIntegerField()
    length_m = PositiveFloatField()
    radius_m = models.FloatField(null=True)
    grade = models.FloatField(default=0.0)

    class Meta:
        ordering = ["order"]
        constraints = [models.UniqueConstraint(fields=["circuit", "order"], name="one_element_per_place")]


class RecordedRun(Owned):
    """A recorded run: what was found in it, and the speed trace made of it."""

    name = models.CharField(max_length=120)
    file_name = models.CharField(max_length=120, blank=True)
    uses = ShapedField(default=list, shape=list[Use], help_text="which column holds what, in which unit")
    smoothing = models.CharField(max_length=8, blank=True)
    summary = ShapedField(
        default=dict, shape=dict[Word, Number], help_text="what was found and done: rows, spikes, gaps, brakings, laps"
    )
    trace = ShapedField(
        shape="thermaxis.apps.garage.duty_mapping:trace_of", help_text="t_s, v_mps and grade as the core takes them"
    )
    kept_at = models.DateTimeField(auto_now_add=True)
    objects = OwnedQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name


class RunFile(models.Model):
    """The file of a run as it came, compressed: beside the run, so that nobody reads it who only drives it."""

    run = models.OneToOneField(RecordedRun, on_delete=models.CASCADE, related_name="file")
    content = models.BinaryField()


class Duty(Owned, Removable, Versioned):
    """What a machine is asked to do."""

    name = models.CharField(max_length=120)
    use = models.CharField(max_length=10)
    note = models.CharField(max_length=240, blank=True)
    events_per_month = NotNegativeFloatField()
    event_km = NotNegativeFloatField(help_text="distance on the odometer per event, the drive there included")
    # its kind, and what was typed of a duty of that kind
    shape = ShapedField(shape="thermaxis.apps.garage.shapes:shape_of")
    # the circuit of a session, the run of a recorded one
    circuit = models.ForeignKey(Circuit, null=True, on_delete=models.PROTECT)
    run = models.ForeignKey(RecordedRun, null=True, on_delete=models.PROTECT)
    # what differs from the machine's own numbers on this duty
    air_C = models.FloatField(null=True)
    altitude_m = models.FloatField(null=True)
    duct_factor = NotNegativeFloatField(default=1.0)
    without_trailer = models.BooleanField(default=False)
    battery_full = models.BooleanField(default=False, help_text="no regenerative braking")
    # the time after it, at rest unless a speed is given: the hot soak
    then_s = NotNegativeFloatField(default=0.0)
    then_speed_mps = NotNegativeFloatField(default=0.0)
    objects = RemovableQuerySet.as_manager()

    def __str__(self) -> str:
        return self.name

    @property
    def kind(self) -> str:
        """Which of the shapes of duties it has."""
        return str(self.shape["kind"])


class DutyPart(models.Model):
    """One duty of a day, in order."""

    duty = models.ForeignKey(Duty, on_delete=models.CASCADE, related_name="parts")
    order = models.PositiveIntegerField()
    part = models.ForeignKey(Duty, on_delete=models.PROTECT, related_name="+")
    times = models.PositiveIntegerField(default=1)
    gap_s = NotNegativeFloatField(default=0.0)

    class Meta:
        ordering = ["order"]
        constraints = [models.UniqueConstraint(fields=["duty", "order"], name="one_part_per_place")]


class Machine(Owned, Removable):
    """A vehicle as driven. `estimates` names the fields nobody has measured yet."""

    owner = models.ForeignKey(Owner, on_delete=models.PROTECT, related_name="machines")
    name = models.CharField(max_length=120)
    note = models.CharField(max_length=240, blank=True)
    odometer_km = NotNegativeFloatField()
    kind = models.CharField(max_length=12)
    vehicle_class = models.CharField(max_length=24, blank=True, help_text="whose estimates fill what is not known")
    change_school = models.CharField(max_length=12, blank=True, help_text="when pads are changed; empty: by their use")
    masses = ShapedField(
        default=list, shape=list[PartOfMass], help_text="the parts the mass is made of, where they were given"
    )
    # weight and size
    mass_kg = PositiveFloatField()
    front_fraction = PositiveFloatField()
    wheelbase_m = PositiveFloatField()
    cg_height_m = PositiveFloatField()
    wheel_radius_front_m = PositiveFloatField()
    wheel_radius_rear_m = PositiveFloatField()
    rotating_mass_factor = PositiveFloatField()
    drag_area_m2 = NotNegativeFloatField()
    rolling_coefficient = NotNegativeFloatField()
    engine_braking_N = NotNegativeFloatField()
    tyre_grip = PositiveFloatField()
    anti_lock = models.BooleanField(default=True)
    rider_front_share = NotNegativeFloatField(null=True)
    front_lift_area_m2 = models.FloatField(default=0.0)
    rear_lift_area_m2 = models.FloatField(default=0.0)
    # what drives it
    power_W = NotNegativeFloatField()
    driven = models.CharField(max_length=6)
    top_speed_mps = NotNegativeFloatField()
    regen_axle = models.CharField(max_length=6, blank=True)
    regen_max_power_W = NotNegativeFloatField(default=0.0)
    regen_max_decel_mps2 = NotNegativeFloatField(default=0.0)
    regen_fade_out_mps = NotNegativeFloatField(default=0.0)
    # what it pulls; its numbers stay when it is not on the hook
    towing = models.BooleanField(default=True)
    trailer_mass_kg = NotNegativeFloatField(null=True)
    trailer_brake_share = NotNegativeFloatField(null=True)
    trailer_nose_load_N = NotNegativeFloatField(null=True)
    # where it hangs: over the road, and behind the rear axle
    trailer_hitch_height_m = NotNegativeFloatField(default=0.45)
    trailer_hitch_overhang_m = NotNegativeFloatField(default=1.1)
    # pedal to master cylinder
    pedal_ratio = PositiveFloatField()
    pedal_efficiency = PositiveFloatField()
    booster_gain = PositiveFloatField()
    booster_runout_N = PositiveFloatField(null=True)
    master_bore_m = PositiveFloatField()
    max_pedal_force_N = PositiveFloatField()
    rear_knee_Pa = PositiveFloatField(null=True)
    rear_slope = NotNegativeFloatField()
    # air, duty
    air_C = models.FloatField()
    altitude_m = models.FloatField()
    # Where the master cylinder sits, and the order the maker bleeds the corners in; empty where nobody has said.
    driver_side = models.CharField(max_length=5, blank=True, default="")
    bleed_order = ShapedField(default=list, shape=list[Place])
    duty = models.ForeignKey(Duty, null=True, on_delete=models.PROTECT, related_name="+")
    estimates = ShapedField(default=list, shape=list[Word])
    objects = RemovableQuerySet.as_manager()
    READ_WITH = ("owner", "duty__circuit")

    def __str__(self) -> str:
        return self.name


class Axle(models.Model):
    """The calipers and hubs of one axle, and which parts they take."""

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="axles")
    position = models.CharField(max_length=5)
    rotors = models.PositiveIntegerField()
    caliper_kind = models.CharField(max_length=40)
    piston_area_m2 = PositiveFloatField()
    caliper_efficiency = PositiveFloatField()
    caliper_mass_kg = PositiveFloatField()
    caliper_specific_heat_J_per_kgK = PositiveFloatField()
    caliper_area_m2 = PositiveFloatField()
    backing_conductance_W_per_K = NotNegativeFloatField()
    gap_conductance_W_per_K = NotNegativeFloatField()
    cooling_factor = PositiveFloatField()
    # As the catalogue names them; empty where nobody has said, and what is on it is all that is known to fit.
    pad_shape = models.CharField(max_length=24, blank=True)
    rotor_mount = models.CharField(max_length=24, blank=True)
    # The shape as it was measured on this machine, where it differs from the catalogue's.
    pad_area_m2 = NotNegativeFloatField(null=True)
    pad_thickness_m = NotNegativeFloatField(null=True)
    pad_backing_m = NotNegativeFloatField(null=True)
    # room in the wheel, where it is known
    rim_radius_m = NotNegativeFloatField(null=True)
    caliper_reach_m = NotNegativeFloatField(null=True)
    # What the caliper, its bracket and the hub take; null where nobody has measured it.
    opening_m = NotNegativeFloatField(null=True, help_text="piston faces fully home to the opposite abutment")
    piston_depth_m = NotNegativeFloatField(null=True)
    seal_hold_m = NotNegativeFloatField(null=True)
    running_clearance_m = NotNegativeFloatField(null=True)
    hat_height_m = NotNegativeFloatField(null=True)
    hub_bore_m = NotNegativeFloatField(null=True)
    stud_holes = models.FloatField(null=True)
    pitch_circle_m = NotNegativeFloatField(null=True)
    fixing_screws = models.FloatField(null=True)
    drum_m = NotNegativeFloatField(null=True)
    bracket_radius_m = NotNegativeFloatField(null=True)
    spoke_room_m = NotNegativeFloatField(null=True)
    pad_height_m = NotNegativeFloatField(null=True)
    abutment_m = NotNegativeFloatField(null=True)
    pin_hole_m = NotNegativeFloatField(null=True)
    pin_spacing_m = NotNegativeFloatField(null=True)
    # Between the marks, and where it stands today; a car's one reservoir is kept with its front axle.
    reservoir_m3 = NotNegativeFloatField(null=True)
    reservoir_level = NotNegativeFloatField(null=True)
    # Words nobody may have said: which corners have the wear sensor, what the caliper's line ends in, what holds its
    # pads.
    wear_sensor = models.CharField(max_length=5, blank=True, default="")
    line = models.CharField(max_length=5, blank=True, default="")
    retention = models.CharField(max_length=8, blank=True, default="")

    class Meta:
        ordering = ["position"]
        constraints = [models.UniqueConstraint(fields=["machine", "position"], name="one_axle_per_position")]

    @property
    def sides(self) -> tuple[str, ...]:
        """The corners it has by name; one without a name where there is one disc only."""
        return ("left", "right") if self.rotors > 1 else ("",)


class SetUp(Owned, Removable):
    """Another way to set a machine up: the numbers that differ from how it stands now, by their paths.

    `price` is what it costs in all apart from pads, null where nobody has said.
    """

    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="set_ups")
    name = models.CharField(max_length=120)
    changes = ShapedField(shape=dict[Word, Plain])
    price = NotNegativeFloatField(null=True)
    made_at = models.DateTimeField(auto_now_add=True)
    objects = RemovableQuerySet.as_manager()

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return self.name
