"""What practice tells the apps above it."""

from django.dispatch import Signal

# kwargs: stay, on (the day of recording), actor (a user or None)
session_recorded = Signal()
