"""What players wrote before stood inside proposals: it is not new to anybody."""

from django.db import migrations


class Migration(migrations.Migration):
    """Words of before count as read."""

    dependencies = [("practice", "0010_second_version")]

    operations = [
        migrations.RunSQL(
            "UPDATE practice_session SET word_read = true WHERE word <> ''", migrations.RunSQL.noop
        )
    ]
