"""What timing gates send, and who is called up to them."""

from django.db import models

from drill_ladder.apps.floor.battery_models import Battery, Protocol
from drill_ladder.apps.people.models import AccessToken, Club, Player
from drill_ladder.apps.personal import Personal


class GateMessage(models.Model):
    """One message of a gate, as it came. boot: since the gate was switched on last, by whose clock
    everything in it is told; beats: [beam, broken, ms].
    """

    ids_of_devices = ("uid",)
    personal = Personal(plain=("beats",))

    uid = models.UUIDField()
    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+", db_index=False)
    device = models.ForeignKey(AccessToken, on_delete=models.CASCADE, related_name="messages")
    boot = models.UUIDField()
    sent_ms = models.BigIntegerField()
    came_at = models.DateTimeField()
    beats = models.JSONField(default=list)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["device", "boot"], name="messages_of_a_boot")]
        constraints = [
            models.UniqueConstraint(fields=["device", "uid"], name="a_message_once_a_gate")
        ]

    def __str__(self) -> str:
        return f"{self.device}, {self.sent_ms} ms"


class GateCall(models.Model):
    """Somebody called up to a gate: the next runs there are theirs, until somebody else is called
    up.
    """

    personal = Personal("player", gone=True, plain=("side",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+", db_index=False)
    device = models.ForeignKey(AccessToken, on_delete=models.CASCADE, related_name="calls")
    battery = models.ForeignKey(Battery, on_delete=models.CASCADE, related_name="calls")
    protocol = models.ForeignKey(Protocol, on_delete=models.PROTECT, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="+")
    side = models.CharField(max_length=5, blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.player} at {self.device}"
