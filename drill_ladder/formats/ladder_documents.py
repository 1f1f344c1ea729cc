"""Measures, doses, targets, rules and rungs written in the open format: the one writer beside the
one reader.
"""

from dataclasses import asdict
from typing import Any

from drill_ladder.core.judging import ByAge, Caller, Evidence, InARow, Rule, Rung, Volume, Window
from drill_ladder.formats.ladder_shapes import ALONG
from drill_ladder.formats.measures import measure_document

Doc = dict[str, Any]


def rule_document(rule: Rule) -> Doc:
    """The whole rule, every gate named."""
    school = rule.school
    document: Doc = {"school": school.name}
    if isinstance(school, InARow):
        if school.passes > 1:
            document["passes"] = school.passes
    elif isinstance(school, Window):
        document |= {"passes": school.passes, "of": school.of}
    elif isinstance(school, Evidence):
        document |= {"confidence": school.confidence, "half_life": school.half_life}
    elif isinstance(school, Volume):
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


def rung_document(rung: Rung) -> Doc:
    """What a rung is judged by; what goes along with it is `along_document`."""
    return {
        "id": rung.id,
        "title": rung.title,
        "measure": measure_document(rung.measure),
        "lanes": list(rung.lanes),
        "dose": asdict(rung.dose),
        "target": asdict(rung.target),
        "floor": rung.floor,
        "ease": {"note": rung.ease} if rung.ease else None,
        "axis": list(rung.axis),
        "rule": rule_document(rung.rule) if rung.rule else None,
    }


def along_document(rung: Rung) -> Doc:
    """What goes along with a rung without being judged."""
    values = {key: getattr(rung, key) for key in ALONG}
    values["by_age"] = ages_document(rung.by_age)
    values["caller"] = caller_document(rung.caller) if rung.caller else None
    return {
        key: list(value) if isinstance(value, tuple) else value for key, value in values.items()
    }


def ages_document(steps: tuple[ByAge, ...]) -> list[Doc]:
    """Steps by age in the open format."""
    return [asdict(step) for step in steps]


def caller_document(caller: Caller) -> Doc:
    """The caller, every number named."""
    return {**asdict(caller), "cues": [asdict(cue) for cue in caller.cues]}
