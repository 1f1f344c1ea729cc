"""Weeks, from the tables that prescriptions had: nothing is moved, only who they belong to."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ("history", "0003_which_row"),
        ('people', '0010_player_revision'),
        ("prescriptions", "0007_weeks_move_out"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
        migrations.CreateModel(
            name='Week',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('monday', models.DateField()),
                ('skipped', models.JSONField(blank=True, default=list)),
                ('revision', models.PositiveIntegerField(default=0)),
                ('published_at', models.DateTimeField(blank=True, null=True)),
                ('published', models.JSONField(blank=True, default=list)),
                ('told', models.JSONField(blank=True, default=list)),
                ('club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='weeks', to='people.club')),
                ('player', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='weeks', to='people.player')),
            ],
            options={
                'ordering': ['monday'],
            },
        ),
        migrations.CreateModel(
            name='PlannedBlock',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('on', models.DateField()),
                ('order', models.PositiveSmallIntegerField()),
                ('minutes', models.PositiveSmallIntegerField()),
                ('place', models.CharField(choices=[('home', 'Home'), ('club', 'Club')], max_length=4)),
                ('way', models.CharField(blank=True, max_length=120)),
                ('reps', models.PositiveIntegerField(blank=True, null=True)),
                ('bound', models.CharField(blank=True, max_length=12)),
                ('locked', models.BooleanField(default=False)),
                ('club', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='people.club')),
                ('prescription', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='blocks', to='prescriptions.prescription')),
                ('week', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='blocks', to='weeks.week')),
            ],
            options={
                'ordering': ['on', 'order', 'id'],
            },
        ),
        migrations.AddConstraint(
            model_name='week',
            constraint=models.UniqueConstraint(fields=('player', 'monday'), name='one_week_a_player'),
        ),
        migrations.AddConstraint(
            model_name='week',
            constraint=models.CheckConstraint(condition=models.Q(('monday__iso_week_day', 1)), name='a_week_begins_on_monday'),
        ),
        migrations.AddConstraint(
            model_name='plannedblock',
            constraint=models.CheckConstraint(condition=models.Q(('place__in', ['home', 'club'])), name='block_place_known'),
        ),
        migrations.AddConstraint(
            model_name='plannedblock',
            constraint=models.CheckConstraint(condition=models.Q(('order__gte', 1)), name='block_order_from_one'),
        ),
    ]),
        migrations.RunSQL(
            "UPDATE history_event SET kind = 'weeks' || substr(kind, strpos(kind, '.')) WHERE kind IN ('prescriptions.week', 'prescriptions.plannedblock')",
            migrations.RunSQL.noop,
        ),
    ]
