"""The table of group sessions gets the name of its own app; the rows stay where they are."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("practice", "0005_hurt_reports")]
    operations = [
        migrations.SeparateDatabaseAndState(
            database_operations=[migrations.AlterModelTable("groupsession", "floor_groupsession")]
        )
    ]
