from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("prescriptions", "0009_placement"),
    ]

    operations = [
        migrations.AddField(
            model_name="prescription",
            name="last_on",
            field=models.DateField(blank=True, editable=False, null=True),
        ),
    ]
