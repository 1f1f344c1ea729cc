"""What practice tells the apps above it."""

from django.dispatch import Signal

# kwargs: stay, on (the day of recording), decision: what the core says about the stay now
session_recorded = Signal()

# kwargs: stay, on: a player has said there how at ease they are
felt = Signal()

# kwargs: stop, words: somebody has told that something hurts
hurt_told = Signal()

# kwargs: stop: a coach ended it
stop_ended = Signal()

# kwargs: session; a receiver answers why a player may not change it any more, or nothing
changing = Signal()
