"""What weeks tell the apps above."""

from django.dispatch import Signal

# kwargs: told: (week, lines) for each player of a club who was told their week; lines: what is
# another since they were told last, none for the first time
weeks_told = Signal()
