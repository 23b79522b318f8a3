import thermaxis.apps.accounts.signs
from thermaxis.apps.safekeeping.older.remade import Remade
from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('season', '0001_initial'),
    ]

    operations = [Remade([
        migrations.AlterField('event', 'driven_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(help_text='odometer once it was over', null=True)),
        migrations.AlterField('event', 'driven_sessions', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
        migrations.AlterField('event', 'road_km', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=0.0)),
        migrations.AlterField('event', 'sessions', thermaxis.apps.accounts.signs.NotNegativeFloatField(default=1.0)),
        migrations.AlterField('order', 'price', thermaxis.apps.accounts.signs.NotNegativeFloatField(null=True)),
    ])]
