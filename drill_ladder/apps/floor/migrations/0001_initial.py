"""Group sessions, from the table that practice had: nothing is moved, only who they belong to."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ("history", "0003_which_row"),
        ("practice", "0006_stations_move_out"),
        ('people', '0010_player_revision'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
        migrations.CreateModel(
            name='GroupSession',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('title', models.CharField(max_length=120)),
                ('on', models.DateField()),
                ('players', models.JSONField(default=list)),
                ('stations', models.JSONField(default=list)),
                ('slot_s', models.PositiveIntegerField()),
                ('change_s', models.PositiveIntegerField(default=0)),
                ('slots', models.PositiveSmallIntegerField()),
                ('past', models.JSONField(default=list)),
                ('club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='people.club')),
            ],
            options={
                'ordering': ['-on', '-id'],
                'constraints': [models.CheckConstraint(condition=models.Q(('slot_s__gte', 10), ('slot_s__lte', 7200)), name='slot_of_some_length'), models.CheckConstraint(condition=models.Q(('slots__gte', 1)), name='slots_from_one')],
            },
        ),
    ]),
        migrations.RunSQL(
            "UPDATE history_event SET kind = 'floor' || substr(kind, strpos(kind, '.')) WHERE kind IN ('practice.groupsession')",
            migrations.RunSQL.noop,
        ),
    ]
