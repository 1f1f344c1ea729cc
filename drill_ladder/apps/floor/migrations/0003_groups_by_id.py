"""Stations name their players by id, in what was run as well; the names are put in when shown."""

from django.db import migrations


def by_id(apps, editor):
    """A name of an earlier version that no id stands beside is looked for in the club; where
    nobody has it, that place stays empty.
    """
    players = apps.get_model("people", "Player")
    for row in apps.get_model("floor", "GroupSession").objects.all():
        ids = dict(players.objects.filter(club=row.club_id).values_list("name", "id"))
        ids |= row.members
        row.players = [ids[name] for name in row.players if name in ids]
        row.past = [
            {str(ids[name]): spot for name, spot in slot.items() if name in ids}
            for slot in row.past
        ]
        row.save(update_fields=["players", "past"])


class Migration(migrations.Migration):
    dependencies = [("floor", "0002_one_club"), ("people", "0003_day_spread")]
    operations = [
        migrations.RunPython(by_id, migrations.RunPython.noop),
        migrations.RemoveField("groupsession", "members"),
    ]
