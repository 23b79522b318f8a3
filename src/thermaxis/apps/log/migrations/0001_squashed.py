import django.db.models.deletion
import django.utils.timezone
import thermaxis.apps.accounts.signs
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('log', '0001_initial'), ('log', '0002_log_book'), ('log', '0003_drop_media_type'), ('log', '0004_from_file'), ('log', '0005_physical_signs')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('auth', '__first__'),
        ('garage', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='LogEntry',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('act', models.CharField(max_length=40)),
                ('user_name', models.CharField(max_length=150)),
                ('made_at', models.DateTimeField(default=django.utils.timezone.now)),
                ('on', models.DateField(default=django.utils.timezone.localdate)),
                ('kind', models.CharField(default='note', max_length=10)),
                ('summary', models.CharField(blank=True, max_length=240)),
                ('text', models.TextField(blank=True)),
                ('cost', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('from_file', models.BooleanField(default=False)),
                ('odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
                ('things', models.JSONField(default=list)),
                ('changes', models.JSONField(default=dict, help_text='path to [before, after]')),
                ('machine', models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='log', to='garage.machine')),
                ('user', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'verbose_name': 'entry',
                'ordering': ['-pk'],
            },
        ),
        migrations.CreateModel(
            name='LogPhoto',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('token', models.CharField(max_length=40)),
                ('content', models.BinaryField()),
                ('taken_at', models.DateTimeField(auto_now_add=True)),
                ('entry', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='photos', to='log.logentry')),
            ],
            options={
                'ordering': ['pk'],
            },
        ),
        migrations.AddIndex(
            model_name='logentry',
            index=models.Index(fields=['machine', '-id'], name='log_logentr_machine_401c4f_idx'),
        ),
        migrations.AddIndex(
            model_name='logentry',
            index=models.Index(fields=['workshop', '-on', '-id'], name='log_by_day'),
        ),
        migrations.AddConstraint(
            model_name='logphoto',
            constraint=models.UniqueConstraint(fields=('entry', 'token'), name='one_log_photo_per_token'),
        ),
    ]
