from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("jobs", "0002_attempts"),
    ]

    operations = [
        migrations.AddField(
            model_name="job",
            name="file",
            field=models.BinaryField(null=True),
        ),
        migrations.AddField(
            model_name="job",
            name="file_name",
            field=models.CharField(blank=True, max_length=80),
        ),
    ]
