"""What was written before fits the bounds as well: looked at without keeping anybody waiting."""

from django.contrib.postgres.operations import ValidateConstraint
from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("practice", "0007_by_ear")]

    operations = [
        ValidateConstraint("judgedday", "judged_observer_known"),
        ValidateConstraint("session", "session_observer_known"),
    ]
