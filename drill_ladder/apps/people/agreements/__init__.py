"""What guardians agreed to, and until when."""

from drill_ladder.apps.people.agreements.services import agree, agrees, who_agree

__all__ = ["agree", "agrees", "who_agree"]
