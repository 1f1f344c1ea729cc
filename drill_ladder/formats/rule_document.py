"""A rule written in the open format."""

from typing import Any

from drill_ladder.core.rules import Evidence, InARow, Rule, Window


def rule_document(rule: Rule) -> dict[str, Any]:
    """The whole rule, every gate named."""
    school = rule.school
    document: dict[str, Any] = {"school": school.name}
    if isinstance(school, InARow):
        if school.passes > 1:
            document["passes"] = school.passes
    elif isinstance(school, Window):
        document |= {"passes": school.passes, "of": school.of}
    elif isinstance(school, Evidence):
        document |= {"confidence": school.confidence, "half_life": school.half_life}
    else:
        document |= {"reps": school.reps, "sessions": school.sessions}
    return document | {
        "min_days_between": rule.min_days_between,
        "min_sessions": rule.min_sessions,
        "trust": rule.trust.value,
        "low_in_a_row": rule.low_in_a_row,
        "stall_after": rule.stall_after,
        "skip_at": rule.skip_at,
        "layoff_days": rule.layoff_days,
        "min_share": rule.min_share,
    }
