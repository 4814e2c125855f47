"""Nothing of the tables changes: what follows from records is derived again, now with the last result that decided."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0004_known_tables'),
    ]

    operations = []
