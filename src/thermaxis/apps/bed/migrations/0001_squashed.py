import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('bed', '0001_initial'), ('bed', '0002_initial'), ('bed', '0003_beddingrecord_removed_at'), ('bed', '0004_bedding'), ('bed', '0005_plans_as_schools')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('fitted', '0001_squashed'),
        ('garage', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='BeddingRecord',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('done_on', models.DateField(null=True)),
                ('order', models.JSONField()),
                ('plan', models.JSONField()),
                ('engine_version', models.CharField(max_length=20)),
                ('front_pads', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='fitted.padset')),
                ('front_rotors', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='fitted.rotorpair')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='bedding', to='garage.machine')),
                ('rear_pads', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='fitted.padset')),
                ('rear_rotors', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='fitted.rotorpair')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'bedding plan',
                'ordering': ['-made_at', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='BeddingRun',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('token', models.CharField(max_length=64)),
                ('started_at', models.DateTimeField()),
                ('ended_at', models.DateTimeField(null=True)),
                ('seed', models.PositiveIntegerField()),
                ('record', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='runs', to='bed.beddingrecord')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'bedding run',
                'ordering': ['-started_at', '-pk'],
            },
        ),
        migrations.CreateModel(
            name='RunEvent',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('token', models.CharField(max_length=64)),
                ('kind', models.CharField(max_length=8)),
                ('at_s', models.FloatField()),
                ('axle', models.CharField(default='front', max_length=5)),
                ('value_C', models.FloatField(null=True)),
                ('since_s', models.FloatField(null=True)),
                ('moving_mps', models.FloatField(default=0.0)),
                ('by', models.CharField(max_length=150)),
                ('run', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='events', to='bed.beddingrun')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.AddConstraint(
            model_name='beddingrun',
            constraint=models.UniqueConstraint(fields=('record', 'token'), name='one_run_of_a_token'),
        ),
        migrations.AddConstraint(
            model_name='runevent',
            constraint=models.UniqueConstraint(fields=('run', 'token'), name='one_event_of_a_token'),
        ),
    ]
