"""What the library tells the apps above it."""

from django.dispatch import Signal

# kwargs: drills (ids), actor (a user or None): where these may be done, or what they need, may be
# another
needs_changed = Signal()
