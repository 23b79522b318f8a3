import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    # Readings name the inspection they were taken at, and an inspection the parts it is of: one table is there first.
    replaces = [('fitted', '0002_initial')]

    dependencies = [
        ('fitted', '0001_squashed'),
        ('inspect', '0001_squashed'),
    ]

    operations = [
        migrations.AddField(
            model_name='padreading',
            name='inspection',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='inspect.inspection'),
        ),
        migrations.AddField(
            model_name='rotorreading',
            name='inspection',
            field=models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name='%(class)ss', to='inspect.inspection'),
        ),
    ]
