from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("bench", "0004_orientations")]

    operations = [
        migrations.AlterField(
            model_name="record",
            name="category",
            field=models.CharField(
                choices=[
                    ("check", "Check"),
                    ("event", "Event"),
                    ("amendment", "Amendment"),
                    ("set-up", "Set Up"),
                    ("orientation", "Orientation"),
                    ("round", "Round"),
                ],
                max_length=12,
            ),
        ),
    ]
