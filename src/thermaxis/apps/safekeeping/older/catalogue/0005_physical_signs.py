import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('catalogue', '0004_bedding'),
    ]

    operations = [Remade([
        migrations.AlterField('fluid', 'dry_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('fluid', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('fluid', 'wet_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('mupoint', 'mu', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('ownmu', 'mu', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('pad', 'conductivity_W_per_mK', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('pad', 'density_kg_per_m3', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('pad', 'dust', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='0 clean to 5 black')),
        migrations.AlterField('pad', 'noise', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='0 silent to 5 loud')),
        migrations.AlterField('pad', 'rotor_wear_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('pad', 'specific_heat_J_per_kgK', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('pad', 'wear_mm3_per_MJ', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('pad', 'wear_scale_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padvariant', 'area_m2', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padvariant', 'backing_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padvariant', 'height_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padvariant', 'length_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padvariant', 'pin_hole_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padvariant', 'pin_spacing_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padvariant', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='for one axle')),
        migrations.AlterField('padvariant', 'shim_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='a loose shim that came with it', null=True)),
        migrations.AlterField('padvariant', 'thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padvariant', 'thickness_spread_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'bore_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'diameter_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='overall, the swept band may end before', null=True)),
        migrations.AlterField('rotor', 'discard_thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotor', 'drum_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'gap_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('rotor', 'hat_height_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'hub_conductance_W_per_K', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('rotor', 'inner_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotor', 'mass_kg', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'outer_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotor', 'pitch_circle_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='for one')),
        migrations.AlterField('rotor', 'thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotor', 'thickness_spread_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotor', 'vane_thickness_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
    ])]
