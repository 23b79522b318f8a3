import django.db.models.deletion
import django.utils.timezone
import thermaxis.apps.accounts.signs
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('fitted', '0001_initial'), ('fitted', '0003_backing_fitted'), ('fitted', '0004_fit_measures'), ('fitted', '0005_jobs'), ('fitted', '0006_bedding'), ('fitted', '0007_season'), ('fitted', '0008_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('catalogue', '0001_squashed'),
        ('garage', '0001_squashed'),
        ('log', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='FluidFill',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('filled_on', models.DateField()),
                ('filled_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('age_months', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('until_on', models.DateField(null=True)),
                ('until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('fluid', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='catalogue.fluid')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='fills', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'fluid fill',
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='FluidReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('measured_on', models.DateField()),
                ('boiling_C', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
                ('water_percent', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('colour', models.CharField(blank=True, max_length=8)),
                ('overheated', models.BooleanField(default=False)),
                ('fill', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='fitted.fluidfill')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='fluid_readings', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'fluid reading',
                'ordering': ['measured_on', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='Hose',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('what', models.CharField(default='hoses', help_text='hoses or seals', max_length=8)),
                ('kind', models.CharField(help_text='rubber or braided; seals are seals', max_length=8)),
                ('age_months', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('fitted_on', models.DateField()),
                ('fitted_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('until_on', models.DateField(null=True)),
                ('until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='hoses', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='Intended',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=80)),
                ('said_at', models.DateTimeField(auto_now=True)),
                ('machine', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='intended', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'set to go on',
            },
        ),
        migrations.CreateModel(
            name='BoxItem',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('name', models.CharField(max_length=24)),
                ('value', models.JSONField()),
                ('intended', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='items', to='fitted.intended')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='PadSet',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('shape', models.CharField(blank=True, max_length=24)),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('scrapped_for', models.CharField(blank=True, default='', max_length=200)),
                ('arrived_on', models.DateField(null=True)),
                ('pad', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='catalogue.pad')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'pad set',
            },
        ),
        migrations.CreateModel(
            name='PadMounting',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('from_on', models.DateField()),
                ('from_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('until_on', models.DateField(null=True)),
                ('until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('begun_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='%(class)ss_begun', to='log.logentry')),
                ('duty', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='garage.duty')),
                ('ended_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='%(class)ss_ended', to='log.logentry')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('pad_set', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='mountings', to='fitted.padset')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='PadSize',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('area_m2', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('backing_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('replaces', models.OneToOneField(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='replaced_by', to='fitted.padsize')),
            ],
        ),
        migrations.AddField(
            model_name='padset',
            name='size',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.padsize'),
        ),
        migrations.CreateModel(
            name='PadReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('measured_on', models.DateField()),
                ('odometer_km', models.FloatField()),
                ('thickness_m', models.FloatField()),
                ('position', models.CharField(blank=True, max_length=16)),
                ('mounting', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.padmounting')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('pad_set', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='fitted.padset')),
                ('size', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.padsize')),
            ],
            options={
                'ordering': ['measured_on', 'id'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='RotorPair',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('mount', models.CharField(blank=True, max_length=24)),
                ('two_piece', models.BooleanField(default=False)),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('scrapped_for', models.CharField(blank=True, default='', max_length=200)),
                ('arrived_on', models.DateField(null=True)),
                ('rotor', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='catalogue.rotor')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'rotors',
            },
        ),
        migrations.CreateModel(
            name='RotorMounting',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('from_on', models.DateField()),
                ('from_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('until_on', models.DateField(null=True)),
                ('until_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('begun_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='%(class)ss_begun', to='log.logentry')),
                ('duty', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='garage.duty')),
                ('ended_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='%(class)ss_ended', to='log.logentry')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('rotor_pair', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='mountings', to='fitted.rotorpair')),
            ],
            options={
                'ordering': ['pk'],
                'abstract': False,
            },
        ),
        migrations.CreateModel(
            name='Disc',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('side', models.CharField(blank=True, max_length=5)),
                ('direction', models.CharField(blank=True, max_length=5)),
                ('pair', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='discs', to='fitted.rotorpair')),
            ],
            options={
                'ordering': ['side'],
            },
        ),
        migrations.CreateModel(
            name='Calibration',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('evidence', models.JSONField()),
                ('front', models.JSONField(null=True)),
                ('rear', models.JSONField(null=True)),
                ('residuals', models.JSONField()),
                ('engine_version', models.CharField(max_length=20)),
                ('duty', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='garage.duty')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='calibrations', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('front_rotors', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotorpair')),
                ('rear_rotors', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotorpair')),
            ],
            options={
                'ordering': ['-made_at', '-id'],
            },
        ),
        migrations.CreateModel(
            name='BeddingResult',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('axle', models.CharField(max_length=5)),
                ('on', models.DateField()),
                ('odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('word', models.CharField(max_length=10)),
                ('source', models.CharField(max_length=8)),
                ('look', models.CharField(blank=True, max_length=12)),
                ('text', models.JSONField(null=True)),
                ('wear_m', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='bedding_results', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('pad_set', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='bedding_results', to='fitted.padset')),
                ('rotor_pair', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='fitted.rotorpair')),
            ],
            options={
                'verbose_name': 'bedding result',
                'ordering': ['on', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='RotorSize',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('outer_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('inner_radius_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('discard_thickness_m', thermaxis.apps.accounts.signs.PositiveFloatField()),
                ('gap_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('vanes', models.PositiveIntegerField()),
                ('vane_thickness_m', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('material', models.CharField(max_length=24)),
                ('pattern', models.CharField(max_length=24)),
                ('hub_conductance_W_per_K', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('replaces', models.OneToOneField(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='replaced_by', to='fitted.rotorsize')),
            ],
        ),
        migrations.CreateModel(
            name='RotorReading',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('measured_on', models.DateField()),
                ('odometer_km', models.FloatField()),
                ('thickness_m', models.FloatField()),
                ('disc', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='readings', to='fitted.disc')),
                ('mounting', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotormounting')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
                ('size', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotorsize')),
            ],
            options={
                'ordering': ['measured_on', 'id'],
                'abstract': False,
            },
        ),
        migrations.AddField(
            model_name='rotorpair',
            name='size',
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotorsize'),
        ),
        migrations.AddConstraint(
            model_name='fluidfill',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('machine',), name='one_fluid_in_a_machine'),
        ),
        migrations.AddConstraint(
            model_name='hose',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('machine', 'axle', 'what'), name='one_set_of_hoses'),
        ),
        migrations.AddConstraint(
            model_name='boxitem',
            constraint=models.UniqueConstraint(fields=('intended', 'axle', 'name'), name='one_value_per_item'),
        ),
        migrations.AddConstraint(
            model_name='padmounting',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('machine', 'axle'), name='one_pad_set_on_an_axle'),
        ),
        migrations.AddConstraint(
            model_name='padmounting',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('pad_set',), name='a_pad_set_in_one_place'),
        ),
        migrations.AddConstraint(
            model_name='rotormounting',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('machine', 'axle'), name='one_rotor_pair_on_an_axle'),
        ),
        migrations.AddConstraint(
            model_name='rotormounting',
            constraint=models.UniqueConstraint(condition=models.Q(('until_on__isnull', True)), fields=('rotor_pair',), name='a_rotor_pair_in_one_place'),
        ),
        migrations.AddConstraint(
            model_name='disc',
            constraint=models.UniqueConstraint(fields=('pair', 'side'), name='one_disc_per_side'),
        ),
        migrations.AddConstraint(
            model_name='calibration',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at__isnull', True)), fields=('machine',), name='one_calibration_in_force'),
        ),
    ]
