"""Records are found by words through an index of the database, however many there are."""

from django.db import migrations, models

CHUNK = 500
COLUMNS = "records_words(rowid, search)"
GONE = f"INSERT INTO records_words(records_words, rowid, search) VALUES ('delete', old.arrival, old.search);"
CAME = f"INSERT INTO {COLUMNS} VALUES (new.arrival, new.search);"
SQLITE = (
    "CREATE VIRTUAL TABLE records_words USING fts5("
    "search, content='records_record', content_rowid='arrival', tokenize='unicode61 remove_diacritics 0')",
    f"CREATE TRIGGER records_words_came AFTER INSERT ON records_record BEGIN {CAME} END",
    f"CREATE TRIGGER records_words_gone AFTER DELETE ON records_record BEGIN {GONE} END",
    f"CREATE TRIGGER records_words_changed AFTER UPDATE OF search ON records_record BEGIN {GONE} {CAME} END",
    "INSERT INTO records_words(records_words) VALUES ('rebuild')",
)
SQLITE_BACK = (
    "DROP TRIGGER records_words_came",
    "DROP TRIGGER records_words_gone",
    "DROP TRIGGER records_words_changed",
    "DROP TABLE records_words",
)
POSTGRES = ("CREATE INDEX records_by_words ON records_record USING gin (to_tsvector('simple', search))",)
POSTGRES_BACK = ("DROP INDEX records_by_words",)


def plain(apps, schema_editor):
    """What each record is found by, as plain words."""
    from records.words import plain_words

    record_model = apps.get_model("records", "Record")
    changed = []
    for record in record_model.objects.only("pk", "search").iterator(chunk_size=CHUNK):
        record.search = plain_words(record.search)
        changed.append(record)
        if len(changed) == CHUNK:
            record_model.objects.bulk_update(changed, ["search"])
            changed = []
    record_model.objects.bulk_update(changed, ["search"])


def index(apps, schema_editor):
    for sql in SQLITE if schema_editor.connection.vendor == "sqlite" else POSTGRES:
        schema_editor.execute(sql)


def unindex(apps, schema_editor):
    for sql in SQLITE_BACK if schema_editor.connection.vendor == "sqlite" else POSTGRES_BACK:
        schema_editor.execute(sql)


class Migration(migrations.Migration):
    dependencies = [("records", "0002_found_by")]

    operations = [
        migrations.AlterField(
            "record",
            "search",
            models.TextField(default="", help_text="The words it is found by, a space before each; follows from the rest."),
        ),
        migrations.RunPython(plain, migrations.RunPython.noop),
        migrations.RunPython(index, unindex),
    ]
