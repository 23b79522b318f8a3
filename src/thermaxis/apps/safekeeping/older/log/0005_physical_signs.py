import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('log', '0004_from_file'),
    ]

    operations = [Remade([
        migrations.AlterField('logentry', 'cost', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('logentry', 'odometer_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
    ])]
