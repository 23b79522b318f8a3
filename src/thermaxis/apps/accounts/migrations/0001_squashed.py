import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('accounts', '0001_initial'), ('accounts', '0002_people'), ('accounts', '0003_machine_stamps'), ('accounts', '0004_answers_of_one_caller'), ('accounts', '0005_time_codes_sealed')]

    initial = True

    dependencies = [
        ('auth', '__first__'),
        ('otp_totp', '0003_add_timestamps'),
    ]

    operations = [
        migrations.CreateModel(
            name='TimeCode',
            fields=[
            ],
            options={
                'proxy': True,
                'indexes': [],
                'constraints': [],
            },
            bases=('otp_totp.totpdevice',),
        ),
        migrations.CreateModel(
            name='Membership',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('role', models.CharField(choices=[('owner', 'Owner'), ('fitter', 'Fitter'), ('driver', 'Driver'), ('reader', 'Reader')], default='owner', max_length=6)),
                ('read_news_of', models.CharField(blank=True, max_length=20)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='OpenSession',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('place', models.CharField(max_length=45)),
                ('device', models.CharField(max_length=120)),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('seen_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='Workshop',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('currency', models.CharField(default='£', max_length=4)),
                ('stamp', models.CharField(blank=True, max_length=16)),
                ('second_factor', models.BooleanField(default=False)),
                ('members', models.ManyToManyField(related_name='workshops', through='accounts.Membership', to=settings.AUTH_USER_MODEL)),
            ],
        ),
        migrations.CreateModel(
            name='OneTimeAddress',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(choices=[('found', 'Found'), ('join', 'Join'), ('reset', 'Reset')], max_length=5)),
                ('print', models.CharField(max_length=64, unique=True)),
                ('role', models.CharField(blank=True, choices=[('owner', 'Owner'), ('fitter', 'Fitter'), ('driver', 'Driver'), ('reader', 'Reader')], max_length=6)),
                ('note', models.CharField(blank=True, max_length=120)),
                ('machines_of', models.CharField(blank=True, max_length=120)),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('ends_at', models.DateTimeField()),
                ('used_at', models.DateTimeField(null=True)),
                ('withdrawn_at', models.DateTimeField(null=True)),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'one-time address',
            },
        ),
        migrations.AddField(
            model_name='membership',
            name='workshop',
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, to='accounts.workshop'),
        ),
        migrations.CreateModel(
            name='MachineStamp',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('machine_id', models.PositiveBigIntegerField()),
                ('stamp', models.CharField(max_length=16)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
        ),
        migrations.CreateModel(
            name='ChangeKey',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=64)),
                ('operation', models.CharField(max_length=200)),
                ('fingerprint', models.CharField(max_length=64)),
                ('caller', models.CharField(max_length=40)),
                ('secret', models.BooleanField(default=False)),
                ('made_at', models.DateTimeField(auto_now_add=True, db_index=True)),
                ('status', models.PositiveSmallIntegerField(null=True)),
                ('media_type', models.CharField(blank=True, max_length=80)),
                ('content', models.BinaryField(default=b'')),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
        ),
        migrations.CreateModel(
            name='ApiKey',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=80)),
                ('reach', models.CharField(choices=[('read', 'Read'), ('readings', 'Readings'), ('all', 'All')], max_length=8)),
                ('print', models.CharField(max_length=64, unique=True)),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('used_at', models.DateTimeField(null=True)),
                ('withdrawn_at', models.DateTimeField(null=True)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'key',
            },
        ),
        migrations.AddConstraint(
            model_name='membership',
            constraint=models.UniqueConstraint(fields=('user', 'workshop'), name='one_membership'),
        ),
        migrations.AddConstraint(
            model_name='machinestamp',
            constraint=models.UniqueConstraint(fields=('workshop', 'machine_id'), name='one_stamp_of_a_machine'),
        ),
        migrations.AddConstraint(
            model_name='changekey',
            constraint=models.UniqueConstraint(fields=('user', 'key'), name='one_change_per_key'),
        ),
    ]
