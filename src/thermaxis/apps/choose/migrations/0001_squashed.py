import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    replaces = [('choose', '0001_initial')]

    initial = True

    dependencies = [
        ('accounts', '0001_squashed'),
        ('garage', '0001_squashed'),
        ('log', '0001_squashed'),
    ]

    operations = [
        migrations.CreateModel(
            name='Decision',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('removed_at', models.DateTimeField(null=True)),
                ('inputs', models.JSONField(default=dict)),
                ('title', models.CharField(max_length=120)),
                ('note', models.TextField(blank=True)),
                ('made_at', models.DateTimeField(auto_now_add=True)),
                ('content', models.JSONField()),
                ('token', models.CharField(max_length=64, null=True, unique=True)),
                ('share_notes', models.BooleanField(default=False)),
                ('engine_version', models.CharField(max_length=20)),
                ('fitting', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='log.logentry')),
                ('machine', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='decisions', to='garage.machine')),
                ('workshop', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='accounts.workshop')),
            ],
            options={
                'ordering': ['-made_at', '-pk'],
            },
        ),
    ]
