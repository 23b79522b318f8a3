import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('job', '0002_drop_media_type'),
    ]

    operations = [Remade([
        migrations.AlterField('fastenerspec', 'counter_hold_m', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
        migrations.AlterField('fastenerspec', 'size_m', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
        migrations.AlterField('fastenerspec', 'torque_Nm', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
        migrations.AlterField('job', 'bolts_due_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'closed_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'consumables_price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'parts_price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'quote', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'rate_per_hour', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('job', 'service_s', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('jobtick', 'torque_Nm', thermaxis.apps.accounts.signs.PositiveFloatField(null=True)),
    ])]
