"""What people tells the apps above it."""

from django.dispatch import Signal

# kwargs: players (a list), actor (a user or None): what there is at their homes, or on which days,
# is another
home_changed = Signal()

# kwargs: invitation, request: somebody is invited
invited = Signal()

# kwargs: club: somebody has just written something there
written = Signal()
