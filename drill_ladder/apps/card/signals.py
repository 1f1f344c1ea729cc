"""What the card's app tells the apps above."""

from django.dispatch import Signal

# kwargs: report: a player and their family may read it from now on
report_published = Signal()
# kwargs: reports: many of them, of one club
reports_published = Signal()
