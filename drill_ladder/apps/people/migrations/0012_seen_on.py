from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("people", "0011_club_clock"),
    ]

    operations = [
        migrations.AddField(
            model_name="player",
            name="seen_on",
            field=models.DateField(blank=True, editable=False, null=True),
        ),
    ]
