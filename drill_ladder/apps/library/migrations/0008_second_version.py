from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("library", "0007_rung_plan"),
    ]

    operations = [
        migrations.AddField(
            model_name="drill",
            name="checkpoints",
            field=models.JSONField(blank=True, default=list),
        ),
    ]
