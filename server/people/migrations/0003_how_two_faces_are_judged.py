from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0002_the_house")]

    operations = [
        migrations.AddField(
            model_name="house",
            name="judge_raw",
            field=models.BooleanField(default=False, help_text="Two faces judged by 2c and 2i, not by half of them."),
        ),
    ]
