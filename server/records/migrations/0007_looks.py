"""Nothing of the tables changes: what follows from records is derived again, now with what looks found wrong."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0006_summaries_again'),
    ]

    operations = []
