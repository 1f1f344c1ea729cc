"""What people tells the apps above it."""

from django.dispatch import Signal

# kwargs: player, actor (a user or None): what there is at home, or on which days, is another
home_changed = Signal()
