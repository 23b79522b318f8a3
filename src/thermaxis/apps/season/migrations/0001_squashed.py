import django.db.models.deletion
import django.utils.timezone
import thermaxis.apps.accounts.signs
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('season', '0001_initial'), ('season', '0002_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('catalogue', '0001_squashed'),
        ('fitted', '0001_squashed'),
        ('garage', '0001_squashed'),
        ('log', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='CalendarFeed',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('token', models.CharField(max_length=64, unique=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('machine', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='feed', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'calendar address',
            },
        ),
        migrations.CreateModel(
            name='Event',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('version', models.PositiveIntegerField(default=1)),
                ('name', models.CharField(max_length=120)),
                ('on', models.DateField()),
                ('until_on', models.DateField(null=True)),
                ('starts_at', models.TimeField(null=True)),
                ('ends_at', models.TimeField(null=True)),
                ('sessions', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=1.0)),
                ('road_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
                ('air_C', models.FloatField(null=True)),
                ('note', models.CharField(blank=True, max_length=500)),
                ('uid', models.CharField(max_length=200)),
                ('sequence', models.PositiveIntegerField(default=0)),
                ('changed_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('series', models.CharField(blank=True, max_length=64)),
                ('source', models.CharField(default='hand', max_length=4)),
                ('state', models.CharField(default='planned', max_length=10)),
                ('driven_sessions', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('driven_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='odometer once it was over', null=True)),
                ('driven_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='log.logentry')),
                ('driven_front', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='events_front', to='fitted.padset')),
                ('driven_front_rotors', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.rotorpair')),
                ('driven_rear', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='events_rear', to='fitted.padset')),
                ('driven_rear_rotors', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.rotorpair')),
                ('duty', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='+', to='garage.duty')),
                ('fluid', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='+', to='catalogue.fluid')),
                ('front_pads', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.padset')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='events', to='garage.machine')),
                ('rear_pads', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.padset')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['on', 'starts_at', 'pk'],
            },
        ),
        migrations.CreateModel(
            name='Order',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('version', models.PositiveIntegerField(default=1)),
                ('kind', models.CharField(help_text='pads, rotors, fluid or other', max_length=8)),
                ('axle', models.CharField(blank=True, max_length=5)),
                ('name', models.CharField(max_length=160)),
                ('supplier', models.CharField(blank=True, max_length=120)),
                ('quantity', models.PositiveIntegerField(default=1)),
                ('price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('lead_days', models.PositiveIntegerField(null=True)),
                ('order_by', models.DateField(null=True)),
                ('note', models.CharField(blank=True, max_length=240)),
                ('ordered_on', models.DateField(null=True)),
                ('arrived_on', models.DateField(null=True)),
                ('event', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='orders', to='season.event')),
                ('machine', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='orders', to='garage.machine')),
                ('pad_set', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.padset')),
                ('rotor', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='catalogue.rotor')),
                ('rotor_pair', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='fitted.rotorpair')),
                ('variant', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='catalogue.padvariant')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['order_by', 'pk'],
            },
        ),
        migrations.AddIndex(
            model_name='event',
            index=models.Index(fields=['workshop', 'on'], name='season_even_worksho_a0b54f_idx'),
        ),
        migrations.AddConstraint(
            model_name='event',
            constraint=models.UniqueConstraint(fields=('machine', 'uid'), name='one_event_of_a_uid'),
        ),
    ]
