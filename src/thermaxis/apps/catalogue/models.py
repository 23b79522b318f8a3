"""The parts catalogue: pads (compounds) in their shapes, rotors, fluids; each row says where its numbers are from."""

from __future__ import annotations

from django.db import models

from thermaxis.apps.accounts.models import Owned, OwnedQuerySet
from thermaxis.apps.accounts.shaped import ShapedField, Word
from thermaxis.apps.accounts.signs import NotNegativeFloatField, PositiveFloatField
from thermaxis.apps.log.models import Removable, RemovableQuerySet, Versioned


class Provenance(models.TextChoices):
    MEASURED = "measured"
    MAKER = "maker"
    ESTIMATE = "estimate"


class Family(models.TextChoices):
    ORGANIC = "organic"
    CERAMIC = "ceramic"
    LOW_METALLIC = "low-metallic"
    SEMI_METALLIC = "semi-metallic"
    SINTERED = "sintered"
    RACE = "race carbon-metallic"


class Part(Owned):
    """What every catalogue row has."""

    name = models.CharField(max_length=120)
    provenance = models.CharField(max_length=10, choices=Provenance.choices)

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True

    def __str__(self) -> str:
        return self.name


class Pad(Part):
    """A compound, independent of the shape it is sold in."""

    family = models.CharField(max_length=24, choices=Family.choices)
    window_low_C = models.FloatField()
    window_high_C = models.FloatField()
    limit_C = models.FloatField()
    bed_low_C = models.FloatField()
    bed_high_C = models.FloatField()
    noise = NotNegativeFloatField(help_text="0 silent to 5 loud")
    dust = NotNegativeFloatField(help_text="0 clean to 5 black")
    density_kg_per_m3 = PositiveFloatField()
    specific_heat_J_per_kgK = PositiveFloatField()
    conductivity_W_per_mK = PositiveFloatField()
    wear_mm3_per_MJ = NotNegativeFloatField()
    wear_knee_C = models.FloatField()
    wear_scale_C = PositiveFloatField()
    # The maker's own words; empty where there are none.
    bedding = models.CharField(max_length=500, blank=True)
    # Taken off a rotor with each set, where somebody measured it; else what the family usually takes.
    rotor_wear_m = NotNegativeFloatField(null=True)
    # Whether everything is computed with the curve moved to the workshop's own readings.
    use_own = models.BooleanField(default=False)
    # Told from one machine's numbers: no other machine is offered it.
    machine = models.ForeignKey("garage.Machine", null=True, on_delete=models.CASCADE, related_name="own_pads")
    # Found on that machine when it was added: nobody knows what it is, and nobody sells it.
    as_found = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "name"], name="one_compound_of_a_name")]


class OwnMu(Removable):
    """Friction somebody of the workshop measured, beside the maker's curve."""

    pad = models.ForeignKey(Pad, on_delete=models.CASCADE, related_name="own_mu")
    temperature_C = models.FloatField()
    mu = NotNegativeFloatField()
    measured_on = models.DateField()
    how = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["temperature_C", "pk"]


class MuPoint(models.Model):
    """One point of a compound's friction curve."""

    pad = models.ForeignKey(Pad, on_delete=models.CASCADE, related_name="mu_points")
    temperature_C = models.FloatField()
    mu = NotNegativeFloatField()
    provenance = models.CharField(max_length=10, choices=Provenance.choices)

    class Meta:
        ordering = ["temperature_C"]
        constraints = [models.UniqueConstraint(fields=["pad", "temperature_C"], name="one_mu_per_temperature")]


class PadVariant(models.Model):
    """A compound in one pad shape: what a shop sells as a set for one axle."""

    pad = models.ForeignKey(Pad, on_delete=models.CASCADE, related_name="variants")
    shape = models.CharField(max_length=24)
    area_m2 = PositiveFloatField()
    thickness_m = PositiveFloatField()
    backing_m = PositiveFloatField()
    price = NotNegativeFloatField(help_text="for one axle")
    provenance = models.CharField(max_length=10, choices=Provenance.choices, default=Provenance.MAKER)
    # What tells whether it goes in; null where nobody states it.
    thickness_spread_m = NotNegativeFloatField(null=True)
    shim_m = NotNegativeFloatField(null=True, help_text="a loose shim that came with it")
    height_m = NotNegativeFloatField(null=True)
    length_m = NotNegativeFloatField(null=True)
    pin_hole_m = NotNegativeFloatField(null=True)
    pin_spacing_m = NotNegativeFloatField(null=True)
    # What comes in the box beside four pads: pads with a wear tab among them, and small parts by count.
    wear_tabs = models.PositiveIntegerField(null=True)
    piston_clips = models.BooleanField(default=False, help_text="inner pads hold on to the piston")
    kit = ShapedField(default=dict, shape=dict[Word, int])

    class Meta:
        constraints = [models.UniqueConstraint(fields=["pad", "shape"], name="one_variant_per_shape")]


class Rotor(Part):
    """A rotor; the radii are those of the swept band."""

    mount = models.CharField(max_length=24, help_text="which hubs and calipers it fits")
    outer_radius_m = PositiveFloatField()
    inner_radius_m = PositiveFloatField()
    thickness_m = PositiveFloatField()
    discard_thickness_m = PositiveFloatField()
    gap_m = NotNegativeFloatField()
    vanes = models.PositiveIntegerField()
    vane_thickness_m = NotNegativeFloatField()
    material = models.CharField(max_length=24)
    pattern = models.CharField(max_length=24)
    two_piece = models.BooleanField()
    hub_conductance_W_per_K = NotNegativeFloatField()
    price = NotNegativeFloatField(help_text="for one")
    mass_kg = NotNegativeFloatField(null=True)
    # Directional vanes lean backwards: left and right are different parts.
    vane_shape = models.CharField(max_length=12, default="straight")
    coating = models.CharField(max_length=8, default="none")
    # Slots or holes that are made for one side, by the maker's label.
    handed_face = models.BooleanField(default=False)
    # What tells whether it goes on; null where nobody states it.
    thickness_spread_m = NotNegativeFloatField(null=True)
    diameter_m = NotNegativeFloatField(null=True, help_text="overall, the swept band may end before")
    hat_height_m = NotNegativeFloatField(null=True)
    bore_m = NotNegativeFloatField(null=True)
    holes = models.FloatField(null=True)
    pitch_circle_m = NotNegativeFloatField(null=True)
    fixing_screws = models.FloatField(null=True)
    drum_m = NotNegativeFloatField(null=True)
    jacking_thread = models.CharField(max_length=8, blank=True, default="")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "name", "mount"], name="one_rotor_of_a_name")]


class PartMeasure(Owned, Removable):
    """What somebody of the workshop measured of a part at hand, sold under a number that says other: it goes before it.

    Of one rotor or of one pad shape; `name` is that of the core's measures.
    """

    rotor = models.ForeignKey(Rotor, null=True, on_delete=models.CASCADE, related_name="measures")
    variant = models.ForeignKey(PadVariant, null=True, on_delete=models.CASCADE, related_name="measures")
    name = models.CharField(max_length=24)
    value = models.FloatField()
    measured_on = models.DateField()
    objects = RemovableQuerySet.as_manager()

    class Meta:
        verbose_name = "measure of a part"
        constraints = [
            models.UniqueConstraint(
                fields=["rotor", "name"], condition=models.Q(removed_at__isnull=True), name="one_measure_of_a_rotor"
            ),
            models.UniqueConstraint(
                fields=["variant", "name"], condition=models.Q(removed_at__isnull=True), name="one_measure_of_a_pad"
            ),
        ]


class Fluid(Part):
    """A brake fluid with its boiling points."""

    standard = models.CharField(max_length=12)
    dry_C = PositiveFloatField()
    wet_C = PositiveFloatField()
    price = NotNegativeFloatField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "name"], name="one_fluid_of_a_name")]


class MakersRows(Owned, Versioned):
    """The rows of a compound's leaflet, as somebody of the workshop typed them; empty where they were taken out."""

    pad = models.OneToOneField(Pad, on_delete=models.CASCADE, related_name="makers_rows")
    rows = ShapedField(default=list, shape="thermaxis.apps.bed.api.schemas:LeafletRows")
    objects = OwnedQuerySet.as_manager()

    class Meta:
        verbose_name = "maker's rows"
