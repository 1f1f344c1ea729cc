"""What prescriptions tell within themselves and to the apps above."""

from django.dispatch import Signal

# kwargs: prescription, first: the player stands on a rung, the first one or another
arrived = Signal()

# kwargs: stay: the player stands there no more
left = Signal()
