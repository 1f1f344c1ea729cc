"""Whose feeds sets were is asked by name: few sets have one, so the index is small."""

from django.contrib.postgres.operations import AddIndexConcurrently
from django.db import migrations, models


class Migration(migrations.Migration):
    atomic = False

    dependencies = [("practice", "0010_at_ease")]

    operations = [
        AddIndexConcurrently(
            model_name="setrow",
            index=models.Index(
                condition=models.Q(("feeder", ""), _negated=True),
                fields=["club", "feeder"],
                name="sets_fed_by",
            ),
        ),
    ]
