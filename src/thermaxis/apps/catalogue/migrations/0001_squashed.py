import django.db.models.deletion
import thermaxis.apps.accounts.signs
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('catalogue', '0001_initial'), ('catalogue', '0002_pad_as_found'), ('catalogue', '0003_fit_measures'), ('catalogue', '0004_bedding'), ('catalogue', '0005_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('garage', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Pad',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('provenance', models.CharField(choices=[('measured', 'Measured'), ('maker', 'Maker'), ('estimate', 'Estimate')], max_length=10)),
                ('family', models.CharField(choices=[('organic', 'Organic'), ('ceramic', 'Ceramic'), ('low-metallic', 'Low Metallic'), ('semi-metallic', 'Semi Metallic'), ('sintered', 'Sintered'), ('race carbon-metallic', 'Race')], max_length=24)),
                ('window_low_C', models.FloatField()),
                ('window_high_C', models.FloatField()),
                ('limit_C', models.FloatField()),
                ('bed_low_C', models.FloatField()),
                ('bed_high_C', models.FloatField()),
                ('noise', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='0 silent to 5 loud')),
                ('dust', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='0 clean to 5 black')),
                ('density_kg_per_m3', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('specific_heat_J_per_kgK', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('conductivity_W_per_mK', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('wear_mm3_per_MJ', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('wear_knee_C', models.FloatField()),
                ('wear_scale_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('bedding', models.CharField(blank=True, max_length=500)),
                ('rotor_wear_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('use_own', models.BooleanField(default=False)),
                ('as_found', models.BooleanField(default=False)),
                ('machine', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='own_pads', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
        ),
        migrations.CreateModel(
            name='OwnMu',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('temperature_C', models.FloatField()),
                ('mu', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('measured_on', models.DateField()),
                ('how', models.CharField(blank=True, max_length=200)),
                ('pad', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='own_mu', to='catalogue.pad')),
            ],
            options={
                'ordering': ['temperature_C', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='MuPoint',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('temperature_C', models.FloatField()),
                ('mu', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('provenance', models.CharField(choices=[('measured', 'Measured'), ('maker', 'Maker'), ('estimate', 'Estimate')], max_length=10)),
                ('pad', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='mu_points', to='catalogue.pad')),
            ],
            options={
                'ordering': ['temperature_C'],
            },
        ),
        migrations.CreateModel(
            name='MakersRows',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('version', models.PositiveIntegerField(default=1)),
                ('rows', models.JSONField(default=list)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('pad', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='makers_rows', to='catalogue.pad')),
            ],
            options={
                'verbose_name': "maker's rows",
            },
        ),
        migrations.CreateModel(
            name='PadVariant',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('shape', models.CharField(max_length=24)),
                ('area_m2', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('backing_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='for one axle')),
                ('provenance', models.CharField(choices=[('measured', 'Measured'), ('maker', 'Maker'), ('estimate', 'Estimate')], default='maker', max_length=10)),
                ('thickness_spread_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('shim_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='a loose shim that came with it', null=True)),
                ('height_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('length_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('pin_hole_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('pin_spacing_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('wear_tabs', models.PositiveIntegerField(null=True)),
                ('piston_clips', models.BooleanField(default=False, help_text='inner pads hold on to the piston')),
                ('kit', models.JSONField(default=dict)),
                ('pad', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='variants', to='catalogue.pad')),
            ],
        ),
        migrations.CreateModel(
            name='Rotor',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('provenance', models.CharField(choices=[('measured', 'Measured'), ('maker', 'Maker'), ('estimate', 'Estimate')], max_length=10)),
                ('mount', models.CharField(help_text='which hubs and calipers it fits', max_length=24)),
                ('outer_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('inner_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('discard_thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('gap_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('vanes', models.PositiveIntegerField()),
                ('vane_thickness_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('material', models.CharField(max_length=24)),
                ('pattern', models.CharField(max_length=24)),
                ('two_piece', models.BooleanField()),
                ('hub_conductance_W_per_K', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='for one')),
                ('mass_kg', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('vane_shape', models.CharField(default='straight', max_length=12)),
                ('coating', models.CharField(default='none', max_length=8)),
                ('handed_face', models.BooleanField(default=False)),
                ('thickness_spread_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('diameter_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='overall, the swept band may end before', null=True)),
                ('hat_height_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('bore_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('holes', models.FloatField(null=True)),
                ('pitch_circle_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('fixing_screws', models.FloatField(null=True)),
                ('drum_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('jacking_thread', models.CharField(blank=True, default='', max_length=8)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
        ),
        migrations.CreateModel(
            name='PartMeasure',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('name', models.CharField(max_length=24)),
                ('value', models.FloatField()),
                ('measured_on', models.DateField()),
                ('variant', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='measures', to='catalogue.padvariant')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('rotor', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='measures', to='catalogue.rotor')),
            ],
            options={
                'verbose_name': 'measure of a part',
            },
        ),
        migrations.CreateModel(
            name='Fluid',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('provenance', models.CharField(choices=[('measured', 'Measured'), ('maker', 'Maker'), ('estimate', 'Estimate')], max_length=10)),
                ('standard', models.CharField(max_length=12)),
                ('dry_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('wet_C', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'constraints': [models.UniqueConstraint(fields=('workshop', 'name'), name='one_fluid_of_a_name')],
            },
        ),
        migrations.AddConstraint(
            model_name='pad',
            constraint=models.UniqueConstraint(fields=('workshop', 'name'), name='one_compound_of_a_name'),
        ),
        migrations.AddConstraint(
            model_name='mupoint',
            constraint=models.UniqueConstraint(fields=('pad', 'temperature_C'), name='one_mu_per_temperature'),
        ),
        migrations.AddConstraint(
            model_name='padvariant',
            constraint=models.UniqueConstraint(fields=('pad', 'shape'), name='one_variant_per_shape'),
        ),
        migrations.AddConstraint(
            model_name='rotor',
            constraint=models.UniqueConstraint(fields=('workshop', 'name', 'mount'), name='one_rotor_of_a_name'),
        ),
        migrations.AddConstraint(
            model_name='partmeasure',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at__isnull', True)), fields=('rotor', 'name'), name='one_measure_of_a_rotor'),
        ),
        migrations.AddConstraint(
            model_name='partmeasure',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at__isnull', True)), fields=('variant', 'name'), name='one_measure_of_a_pad'),
        ),
    ]
