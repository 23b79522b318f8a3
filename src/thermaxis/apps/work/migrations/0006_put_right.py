"""Put right what earlier versions did to stored rows.

A worn thickness typed on Machine lowered the rotor's discard thickness to it: such a rotor gets the discard of the
catalogue's rotor it was made from, or, where that is gone, its discard is marked as an estimate. Pictures kept as they
came are drawn anew, so that place and device are no longer in them; what is no picture is taken out.
"""

from django.db import migrations
from django.utils import timezone

from thermaxis.core.errors import FieldError
from thermaxis.formats.picture import MEDIA_TYPE, redrawn

MADE_FROM = ", as on "


def put_discards_right(apps, schema_editor):
    Rotor = apps.get_model("catalogue", "Rotor")
    FittedSet = apps.get_model("work", "FittedSet")
    for rotor in Rotor.objects.filter(own=True):
        if rotor.discard_thickness_m < rotor.thickness_m:
            continue
        name = rotor.name.split(MADE_FROM)[0]
        original = Rotor.objects.filter(workshop=rotor.workshop_id, own=False, name=name, mount=rotor.mount).first()
        if original is not None:
            rotor.discard_thickness_m = original.discard_thickness_m
            rotor.save(update_fields=["discard_thickness_m"])
            continue
        for axle in ("front", "rear"):
            path = f"{axle}.rotor.discard_thickness_m"
            for fitted in FittedSet.objects.filter(removed_on=None).select_related("machine"):
                machine = fitted.machine
                if getattr(fitted, f"{axle}_rotor_id") == rotor.pk and path not in machine.estimates:
                    machine.estimates = [*machine.estimates, path]
                    machine.save(update_fields=["estimates"])


def draw_pictures_anew(apps, schema_editor):
    InspectionPhoto = apps.get_model("work", "InspectionPhoto")
    for key in InspectionPhoto.objects.values_list("pk", flat=True):
        photo = InspectionPhoto.objects.get(pk=key)
        try:
            photo.content, photo.media_type = redrawn(bytes(photo.content)), MEDIA_TYPE
        except FieldError:
            photo.removed_at = photo.removed_at or timezone.now()
        photo.save()


class Migration(migrations.Migration):
    dependencies = [("work", "0005_share_notes"), ("catalogue", "0003_part_details"), ("garage", "0003_set_up_price")]
    operations = [
        migrations.RunPython(put_discards_right, migrations.RunPython.noop),
        migrations.RunPython(draw_pictures_anew, migrations.RunPython.noop),
    ]
