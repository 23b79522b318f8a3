import django.db.models.deletion
import thermaxis.apps.accounts.signs
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('job', '0001_jobs'), ('job', '0002_drop_media_type'), ('job', '0003_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('auth', '__first__'),
        ('fitted', '0001_squashed'),
        ('garage', '0001_squashed'),
        ('log', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Job',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('work', models.CharField(max_length=12)),
                ('key', models.CharField(blank=True, max_length=80)),
                ('started_at', models.DateTimeField()),
                ('started_by', models.CharField(max_length=150)),
                ('closed_at', models.DateTimeField(null=True)),
                ('closed_on', models.DateField(null=True)),
                ('closed_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('abandoned_at', models.DateTimeField(null=True)),
                ('note', models.TextField(blank=True)),
                ('schools', models.JSONField(default=dict)),
                ('rate_per_hour', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('quote', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('parts_price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('consumables_price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('service', models.CharField(blank=True, max_length=10)),
                ('service_since', models.DateTimeField(null=True)),
                ('service_s', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('off', models.JSONField(default=dict)),
                ('content', models.JSONField(default=dict)),
                ('bolts_due_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('bolts_done_at', models.DateTimeField(null=True)),
                ('engine_version', models.CharField(blank=True, max_length=20)),
                ('fitting', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='log.logentry')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='jobs', to='garage.machine')),
                ('pad_set', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.padset')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['-pk'],
            },
        ),
        migrations.CreateModel(
            name='JobPhoto',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('token', models.CharField(max_length=40)),
                ('corner', models.CharField(blank=True, max_length=16)),
                ('when', models.CharField(max_length=6)),
                ('content', models.BinaryField()),
                ('taken_at', models.DateTimeField(auto_now_add=True)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='job.job')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='JobTick',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=60)),
                ('done', models.BooleanField(default=False)),
                ('words', models.CharField(blank=True, max_length=200)),
                ('torque_Nm', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
                ('source', models.CharField(default='hand', max_length=8)),
                ('by', models.CharField(max_length=150)),
                ('at', models.DateTimeField()),
                ('rechecked_by', models.CharField(blank=True, max_length=150)),
                ('rechecked_at', models.DateTimeField(null=True)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='ticks', to='job.job')),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='JobValue',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=40)),
                ('value', models.FloatField()),
                ('entered_at', models.DateTimeField(auto_now=True)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='values', to='job.job')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.CreateModel(
            name='FastenerSpec',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('axle', models.CharField(max_length=5)),
                ('kind', models.CharField(max_length=20)),
                ('drive', models.CharField(default='hex', max_length=16)),
                ('size_m', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
                ('counter_hold_m', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
                ('thread', models.CharField(blank=True, max_length=4)),
                ('torque_Nm', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
                ('words', models.CharField(blank=True, max_length=200)),
                ('source', models.CharField(blank=True, max_length=120)),
                ('page', models.CharField(blank=True, max_length=40)),
                ('treatment', models.CharField(blank=True, max_length=20)),
                ('single_use', models.BooleanField(default=False)),
                ('left_hand', models.BooleanField(default=False)),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='fasteners', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'fastener',
                'ordering': ['pk'],
                'constraints': [models.UniqueConstraint(fields=('machine', 'axle', 'kind'), name='one_fastener_of_a_kind_on_an_axle')],
            },
        ),
        migrations.AddConstraint(
            model_name='job',
            constraint=models.UniqueConstraint(condition=models.Q(('abandoned_at__isnull', True), ('closed_at__isnull', True)), fields=('machine', 'axle'), name='one_open_job_on_an_axle'),
        ),
        migrations.AddConstraint(
            model_name='jobphoto',
            constraint=models.UniqueConstraint(fields=('job', 'token'), name='one_job_photo_per_token'),
        ),
        migrations.AddConstraint(
            model_name='jobtick',
            constraint=models.UniqueConstraint(fields=('job', 'key'), name='one_tick_of_a_step'),
        ),
        migrations.AddConstraint(
            model_name='jobvalue',
            constraint=models.UniqueConstraint(fields=('job', 'name'), name='one_value_of_a_name'),
        ),
    ]
