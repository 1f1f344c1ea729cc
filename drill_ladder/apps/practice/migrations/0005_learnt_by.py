from django.db import migrations, models

BY = [("counts", "good ones"), ("scores", "score"), ("passes", "days passed")]


def forget(apps, editor):
    """Players' rows first, then the ladders'."""
    for name in ("PlayerLearning", "LadderLearning"):
        apps.get_model("practice", name).objects.all().delete()


class Migration(migrations.Migration):
    """What was learnt is learnt anew: the workers fit it once a day."""

    dependencies = [("practice", "0004_learning")]

    operations = [
        migrations.RunPython(forget, migrations.RunPython.noop),
        *(
            operation
            for model in ("ladderlearning", "playerlearning")
            for operation in (
                migrations.RemoveField(model, "counted"),
                migrations.AddField(
                    model,
                    "by",
                    models.CharField(max_length=6, choices=BY, default="counts"),
                    preserve_default=False,
                ),
            )
        ),
    ]
