"""What weeks tell the apps above."""

from django.dispatch import Signal

# kwargs: week, lines: a player was told their week; lines: what is another since they were told
# last, none for the first time
week_told = Signal()
