"""Trying a rule on a ladder and on one of its rungs, and taking it."""

from dataclasses import replace

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.views.decorators.http import require_POST

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules.forms import RuleForm, first_values
from drill_ladder.apps.library.rules.odds import (
    USUAL_MARKS,
    WHO,
    FoundRule,
    compare,
    finder,
    lanes_asked,
)
from drill_ladder.apps.library.rules.services import keep_marks, take_mark, take_rule
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.core.judging import Rule
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.pages import Context, page_or_fragment


@coach_required
def odds(request: HttpRequest, member: Membership, pk: int, position: int) -> HttpResponse:
    """What the rule will really do at a rung: tried by changing numbers, taken by posting them."""
    ladder = get_object_or_404(Ladder.objects.of_club(member.club), pk=pk)
    rung = get_object_or_404(ladder.rungs.with_drill(), position=position)
    terms, rule = rung.core, ladder.rule
    typed = request.POST or (request.GET if "school" in request.GET else None)
    form = RuleForm(typed or first_values(rule, ladder.revision) | member.marks)
    valid = form.is_valid()
    if request.method == "POST" and valid:
        keep_marks(member=member, marks=form.own_marks())
        try:
            said = _taken(member, rung, terms, form, request.POST.get("found", ""))
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, said)
            return redirect("library:ladder", ladder.pk)
    context = {
        "ladder": ladder,
        "rung": rung,
        "rungs": ladder.rungs.all(),
        "form": form,
        "who": WHO,
    }
    context |= _words(rung, terms, rule)
    if valid and terms.counts_makes:
        marked = replace(form.marks(), spread=member.club.day_spread)
        context |= compare(terms, form.rule(rule), marked).context() | {
            "finder": _found(member, terms, form)
        }
    status = 422 if form.errors else 200
    return page_or_fragment(request, "library/odds.html", "library/_odds.html", context, status)


@require_POST
@coach_required
def marks(request: HttpRequest, member: Membership) -> HttpResponse:
    """A coach's own marks, kept as soon as they are changed; those that cannot be are not."""
    form = RuleForm(request.POST)
    form.is_valid()
    if not set(form.errors) & set(USUAL_MARKS):
        keep_marks(member=member, marks=form.own_marks())
    return HttpResponse(status=204)


def _words(rung: Rung, terms: CoreRung, rule: Rule) -> Context:
    """What stands on the page whatever is tried."""
    lanes, shared = lanes_asked(terms)
    return {
        "dose": dose_words(terms),
        "target": target_words(terms),
        "counts_makes": terms.counts_makes,
        "eases": terms.floor is not None,
        "own_rule": rule_sentence(rung.rule) if rung.rule else "",
        "now": rule_sentence(rule),
        "each_of": lanes if lanes > 1 else 0,
        "over": shared if shared > 1 else 0,
    }


def _found(member: Membership, terms: CoreRung, form: RuleForm) -> list[FoundRule]:
    data, marked = form.cleaned_data, replace(form.marks(), spread=member.club.day_spread)
    return finder(marked, data["alpha"] / 100, data["beta"] / 100, *lanes_asked(terms))


def _taken(member: Membership, rung: Rung, terms: CoreRung, form: RuleForm, name: str) -> str:
    """Take the rule as typed for the ladder, or, with a school's name, the mark found for it on
    this rung.
    """
    ladder, revision = rung.ladder, form.cleaned_data["revision"]
    if not name:
        take_rule(member=member, ladder=ladder, rule=form.rule(ladder.rule), revision=revision)
        return f"{ladder} has its new rule. It counts for whoever arrives on a rung from now on."
    rows = {row.key: row for row in _found(member, terms, form)} if terms.counts_makes else {}
    row = rows.get(name)
    if row is None or row.found.n is None or row.found.k is None:
        raise Refused("No mark was found for that school. Nothing was changed.")
    finder = row.found
    take_mark(
        member=member, rung=rung, school=name, makes=row.found.k, of=row.found.n, revision=revision
    )
    return (
        f"Rung {rung.position} now asks {finder.k} of {finder.n}. {row.sentence} "
        "It counts for whoever arrives there from now on."
    )
