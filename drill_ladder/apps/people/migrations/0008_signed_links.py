"""Secrets leave the database: links are signed over id and version; what was given out keeps only
its fingerprint.
"""

import hashlib

import django.db.models.deletion
import django.utils.timezone
from django.db import migrations, models

from drill_ladder.apps.people.club_ties import tie, tieable


def move_over(apps, schema_editor):
    SecretLink, OldSecret = (
        apps.get_model("people", "SecretLink"),
        apps.get_model("people", "OldSecret"),
    )
    Membership, Player = apps.get_model("people", "Membership"), apps.get_model("people", "Player")
    for link in SecretLink.objects.iterator():
        mark, spent = hashlib.sha256(link.token.encode()).hexdigest(), link.revoked_at is not None
        for opens in ("card", "calendar"):
            OldSecret.objects.create(
                club_id=link.club_id,
                player_id=link.player_id,
                fingerprint=mark,
                opens=opens,
                spent=spent,
            )
    for member in Membership.objects.iterator():
        mark = hashlib.sha256(member.feed_token.encode()).hexdigest()
        OldSecret.objects.create(
            club_id=member.club_id, member_id=member.pk, fingerprint=mark, opens="feed"
        )
    with_card = set(
        SecretLink.objects.filter(revoked_at__isnull=True).values_list("player_id", flat=True)
    )
    SecretLink.objects.all().delete()
    for player in Player.objects.iterator():
        for opens in ("card", "calendar"):
            closed = None if player.pk in with_card else django.utils.timezone.now()
            SecretLink.objects.create(
                club_id=player.club_id,
                player_id=player.pk,
                opens=opens,
                closed_at=closed,
                token=f"{opens}-{player.pk}",
            )
    # what was inserted is checked now, or no table could be altered any more in this step
    schema_editor.execute("SET CONSTRAINTS ALL IMMEDIATE")


class Migration(migrations.Migration):
    dependencies = [("people", "0007_own_marks")]
    operations = [
        migrations.AddField(
            "secretlink",
            "opens",
            models.CharField(
                choices=[("card", "Home card"), ("calendar", "Calendar")],
                default="card",
                max_length=8,
            ),
        ),
        migrations.AddField("secretlink", "version", models.PositiveIntegerField(default=1)),
        migrations.AddField("secretlink", "closed_at", models.DateTimeField(blank=True, null=True)),
        migrations.AddField("membership", "feed_version", models.PositiveIntegerField(default=1)),
        migrations.AddField("membership", "feed_closed", models.BooleanField(default=False)),
        tieable("people_membership"),
        migrations.CreateModel(
            name="OldSecret",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("fingerprint", models.CharField(max_length=64)),
                ("opens", models.CharField(max_length=8)),
                ("spent", models.BooleanField(default=False)),
                (
                    "club",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to="people.club",
                    ),
                ),
                (
                    "member",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to="people.membership",
                    ),
                ),
                (
                    "player",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="+",
                        to="people.player",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(
                        fields=("fingerprint", "opens"), name="one_old_secret_a_kind"
                    )
                ]
            },
        ),
        tie("people_oldsecret", "player_id", "people_player"),
        tie("people_oldsecret", "member_id", "people_membership"),
        migrations.RemoveConstraint("secretlink", "one_open_link_a_player"),
        # 0009 drops the secrets
        migrations.RunPython(move_over, migrations.RunPython.noop),
    ]
