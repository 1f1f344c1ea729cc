"""What prescriptions tell within themselves and to the apps above."""

from django.dispatch import Signal

# kwargs: prescription: the player stands on another rung
arrived = Signal()
