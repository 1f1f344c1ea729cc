from django.db import migrations
from django.db.models import OuterRef, Subquery


def keep_their_rung(apps, schema_editor):
    """Blocks that were planned before take the rung that the player stood on then."""
    stays = apps.get_model("prescriptions", "Stay").objects.filter(
        prescription=OuterRef("prescription"), arrived__lte=OuterRef("on")
    )
    stood = stays.order_by("-arrived", "-pk").values("pk")[:1]
    apps.get_model("weeks", "PlannedBlock").objects.update(stay=Subquery(stood))


class Migration(migrations.Migration):
    dependencies = [("weeks", "0004_dose_of_the_day")]

    operations = [migrations.RunPython(keep_their_rung, migrations.RunPython.noop)]
