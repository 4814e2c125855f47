"""Summaries again: of a check with every quantity that was judged, of any record with its temperature.

Both follow from what is stored; nothing that is sealed changes. Without it, *verify* would call older records changed.
"""

from django.db import migrations

from records.summary import summary_text

CHUNK = 500


def fill(apps, schema_editor):
    record_model = apps.get_model("records", "Record")
    changed = []
    for record in record_model.objects.iterator(chunk_size=CHUNK):
        summary = summary_text(record)
        if summary == record.summary:
            continue
        record.summary = summary
        changed.append(record)
        if len(changed) == CHUNK:
            record_model.objects.bulk_update(changed, ["summary"])
            changed = []
    record_model.objects.bulk_update(changed, ["summary"])


class Migration(migrations.Migration):

    dependencies = [
        ('records', '0005_derived_again'),
    ]

    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
