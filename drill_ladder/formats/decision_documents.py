"""Decisions written in the open format, and read back as they were said."""

from datetime import date
from typing import Any

from drill_ladder.core.judging import (
    Advice,
    Ahead,
    Decision,
    Judged,
    Kind,
    Lacking,
    Missing,
    Number,
    Said,
    SaidReason,
)
from drill_ladder.formats.reading import Kept
from drill_ladder.formats.sentences import reason_text
from drill_ladder.formats.shapes import anything, listed, maybe, number, record, text

Doc = dict[str, Any]
ADVICE = {advice.value for advice in Advice}


def decision_document(decision: Decision) -> Doc:
    """A decision in the open format."""
    return {
        "decision": decision.kind.value,
        "to": decision.to,
        "verdicts": [_verdict(v) for v in decision.verdicts],
        "missing": [{"code": m.code.value, **_plain(m.numbers)} for m in decision.missing],
        "reasons": [
            {
                "code": r.code.value,
                "text": reason_text(r, decision.missing),
                "numbers": _plain(r.numbers),
            }
            for r in decision.reasons
        ],
        "odds_next": decision.odds_next,
    }


def _verdict(judged: Judged) -> Doc:
    return {
        "on": judged.on.isoformat(),
        "verdict": judged.verdict.value,
        "score": judged.score,
        "lanes": dict(judged.lanes),
    }


def _plain(numbers: Any) -> dict[str, Number]:
    return {
        key: value.isoformat() if isinstance(value, date) else value
        for key, value in numbers.items()
    }


def said(decision: Decision) -> Said:
    """A decision with its sentences, to be kept."""
    return Said(
        ahead=ahead(decision),
        reasons=tuple(
            SaidReason(r.code, reason_text(r, decision.missing), dict(r.numbers))
            for r in decision.reasons
        ),
        odds_next=decision.odds_next,
    )


def ahead(decision: Decision) -> Ahead:
    """What comes next, to be kept with the session that led to it."""
    return Ahead(decision.kind, decision.to, tuple(decision.missing))


def _missing_document(missing: tuple[Missing, ...]) -> list[Doc]:
    return [{"code": m.code.value, **_plain(m.numbers)} for m in missing]


def _to_missing(docs: list[Doc]) -> tuple[Missing, ...]:
    return tuple(
        Missing(Lacking(doc["code"]), _numbers({k: v for k, v in doc.items() if k != "code"}))
        for doc in docs
    )


def _numbers(doc: Doc) -> dict[str, Number]:
    """Days are days again: only they end in _on."""
    return {
        key: date.fromisoformat(value) if key.endswith("_on") and value else value
        for key, value in doc.items()
    }


_REASON = record(code=text(), text=text(), numbers=anything())
_SAID = record(
    decision=text(),
    to=maybe(text()),
    missing=listed(anything()),
    reasons=listed(_REASON),
    odds_next=maybe(number()),
)


def _to_said(doc: Doc) -> Said:
    return Said(
        ahead=Ahead(Kind(doc["decision"]), doc["to"], _to_missing(doc["missing"])),
        reasons=tuple(_to_reason(reason) for reason in doc["reasons"]),
        odds_next=doc["odds_next"],
    )


def _to_reason(doc: Doc) -> SaidReason:
    code: Kind | Advice = Advice(doc["code"]) if doc["code"] in ADVICE else Kind(doc["code"])
    return SaidReason(code, doc["text"], _numbers(doc["numbers"]))


def _said_document(said: Said) -> Doc:
    return {
        "decision": said.ahead.kind.value,
        "to": said.ahead.to,
        "missing": _missing_document(said.ahead.missing),
        "reasons": [
            {"code": r.code.value, "text": r.text, "numbers": _plain(r.numbers)}
            for r in said.reasons
        ],
        "odds_next": said.odds_next,
    }


SAID: Kept[Said] = Kept(_SAID, _to_said, _said_document)
AHEAD: Kept[Ahead] = Kept(
    record(kind=text(), to=maybe(text()), missing=listed(anything())),
    lambda doc: Ahead(Kind(doc["kind"]), doc["to"], _to_missing(doc["missing"])),
    lambda one: {"kind": one.kind.value, "to": one.to, "missing": _missing_document(one.missing)},
)
