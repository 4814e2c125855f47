"""Grade and words of every record, so that the ledger filters and finds them; summaries again, their temperature a number."""

import json

from django.conf import settings
from django.db import migrations, models

from records.summary import summary_text, words_of

CHUNK = 500


def fill(apps, schema_editor):
    """Both follow from what is stored; nothing that is sealed changes."""
    record_model = apps.get_model("records", "Record")
    rows = record_model.objects.select_related("instrument__model", "observed_by", "entered_by")
    changed = []
    for record in rows.iterator(chunk_size=CHUNK):
        model = record.instrument.model
        record.summary = summary_text(record)
        record.grade = str(json.loads(record.summary).get("grade") or "")
        record.search = words_of(record, f"{model.maker} {model.name}")
        changed.append(record)
        if len(changed) == CHUNK:
            record_model.objects.bulk_update(changed, ["summary", "grade", "search"])
            changed = []
    record_model.objects.bulk_update(changed, ["summary", "grade", "search"])


class Migration(migrations.Migration):
    dependencies = [
        ("fleet", "0004_imports"),
        ("records", "0001_first"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="record",
            name="grade",
            field=models.CharField(
                blank=True, default="", help_text="Of its result; follows from it.", max_length=10
            ),
        ),
        migrations.AddField(
            model_name="record",
            name="search",
            field=models.TextField(
                default="", help_text="What it is found by, in small letters; follows from the rest."
            ),
        ),
        migrations.AddIndex(
            model_name="record",
            index=models.Index(fields=["grade", "observed_at_utc"], name="records_of_a_grade"),
        ),
        migrations.AddIndex(
            model_name="record",
            index=models.Index(fields=["observed_at_utc", "arrival"], name="records_by_their_day"),
        ),
        migrations.RunPython(fill, migrations.RunPython.noop),
    ]
