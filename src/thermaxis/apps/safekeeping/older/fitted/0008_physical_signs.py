import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('fitted', '0007_season'),
    ]

    operations = [Remade([
        migrations.AlterField('beddingresult', 'odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('beddingresult', 'wear_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('fluidfill', 'age_months', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('fluidfill', 'filled_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('fluidfill', 'until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('fluidreading', 'boiling_C', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
        migrations.AlterField('fluidreading', 'water_percent', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('hose', 'age_months', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('hose', 'fitted_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('hose', 'until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padmounting', 'from_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('padmounting', 'until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('padset', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('padsize', 'area_m2', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padsize', 'backing_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('padsize', 'thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotormounting', 'from_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('rotormounting', 'until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('rotorpair', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('rotorsize', 'discard_thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotorsize', 'gap_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('rotorsize', 'hub_conductance_W_per_K', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
        migrations.AlterField('rotorsize', 'inner_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotorsize', 'outer_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotorsize', 'thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
        migrations.AlterField('rotorsize', 'vane_thickness_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
    ])]
