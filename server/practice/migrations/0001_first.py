"""Lessons somebody worked through."""

import django.db.models.deletion
import uuid
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='PracticeRun',
            fields=[
                ('id', models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                ('lesson', models.CharField(max_length=40)),
                ('seed', models.PositiveIntegerField()),
                ('at', models.DateTimeField(help_text='When it was finished.')),
                ('seconds', models.FloatField()),
                ('passed', models.BooleanField()),
                ('advised', models.BooleanField(default=False, help_text='Whether advice was shown.')),
                ('measure', models.PositiveIntegerField()),
                ('habits', models.JSONField(default=list, help_text='Codes of the habits seen.')),
                ('gestures', models.TextField()),
                ('result', models.TextField()),
                ('sent_digest', models.CharField(help_text='The same again is no second save.', max_length=64)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name='practice_runs', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'indexes': [models.Index(fields=['person', 'at'], name='practice_of_a_person')],
            },
        ),
    ]
