import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('inspect', '0002_drop_media_type'),
    ]

    operations = [Remade([
        migrations.AlterField('inspection', 'odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField()),
    ])]
