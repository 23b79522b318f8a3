import django.db.models.deletion
import thermaxis.apps.accounts.signs
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('inspect', '0001_initial'), ('inspect', '0002_drop_media_type'), ('inspect', '0003_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('fitted', '0001_squashed'),
        ('garage', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Inspection',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('measured_on', models.DateField()),
                ('odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
                ('started_at', models.DateTimeField(auto_now_add=True)),
                ('finished_at', models.DateTimeField(null=True)),
                ('wheels', models.JSONField(default=list)),
                ('engine_version', models.CharField(blank=True, max_length=20)),
                ('front_pads', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.padmounting')),
                ('front_rotors', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotormounting')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='inspections', to='garage.machine')),
                ('rear_pads', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.padmounting')),
                ('rear_rotors', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='fitted.rotormounting')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['-measured_on', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='InspectionCell',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=60)),
                ('value', models.JSONField()),
                ('confirmed', models.BooleanField(default=False)),
                ('source', models.CharField(default='hand', max_length=8)),
                ('entered_at', models.DateTimeField(auto_now=True)),
                ('inspection', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='cells', to='inspect.inspection')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='InspectionPhoto',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('token', models.CharField(max_length=40)),
                ('wheel', models.CharField(max_length=16)),
                ('content', models.BinaryField()),
                ('taken_at', models.DateTimeField(auto_now_add=True)),
                ('inspection', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='inspect.inspection')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='Overruling',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('subject', models.CharField(max_length=80)),
                ('computed', models.CharField(max_length=40)),
                ('word', models.CharField(max_length=40)),
                ('reason', models.TextField()),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('inspection', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='overrulings', to='inspect.inspection')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.AddConstraint(
            model_name='inspection',
            constraint=models.UniqueConstraint(condition=models.Q(('finished_at__isnull', True), ('removed_at__isnull', True)), fields=('machine',), name='one_inspection_open'),
        ),
        migrations.AddConstraint(
            model_name='inspectioncell',
            constraint=models.UniqueConstraint(fields=('inspection', 'name'), name='one_value_per_cell'),
        ),
        migrations.AddConstraint(
            model_name='inspectionphoto',
            constraint=models.UniqueConstraint(fields=('inspection', 'token'), name='one_photo_per_token'),
        ),
        migrations.AddConstraint(
            model_name='overruling',
            constraint=models.UniqueConstraint(condition=models.Q(('removed_at__isnull', True)), fields=('inspection', 'subject'), name='one_overruling_in_force'),
        ),
    ]
