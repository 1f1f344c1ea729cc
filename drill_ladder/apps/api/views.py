"""Tokens made and revoked by the owner, and the page about the door, made from its schema."""

from dataclasses import dataclass
from typing import Any

from django import forms
from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from drill_ladder.apps.api.endpoints import api
from drill_ladder.apps.people.access import member_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Scope
from drill_ladder.apps.people.team import make_access, revoke_access
from drill_ladder.ui.fields import Line


class TokenForm(forms.Form):
    """A new token."""

    name = Line(label="What is it for?", max_length=80, help_text="For example: gate in hall 2")
    scopes = forms.MultipleChoiceField(
        label="What it may do",
        choices=Scope.choices,
        widget=forms.CheckboxSelectMultiple,
        error_messages={"required": "Choose at least one thing that it may do."},
    )


@owner_required
def tokens(request: HttpRequest, member: Membership) -> HttpResponse:
    """The club's tokens; a new one is shown once, here and never again."""
    form, secret = TokenForm(request.POST or None), ""
    if request.method == "POST" and form.is_valid():
        try:
            _, secret = make_access(member=member, **form.cleaned_data)
            form = TokenForm()
        except Refused as error:
            form.add_error(None, str(error))
    rows = [(row, [Scope(s).label for s in row.scopes]) for row in member.club.tokens.all()]
    context = {"form": form, "rows": rows, "secret": secret}
    return render(request, "api/tokens.html", context, status=422 if form.errors else 200)


@require_POST
@owner_required
def revoke(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """It opens nothing any more."""
    row = get_object_or_404(member.club.tokens, pk=pk)
    try:
        revoke_access(member=member, token=row)
    except Refused as error:
        raise PermissionDenied(str(error)) from error
    messages.success(request, f"{row} opens nothing any more.")
    return redirect("api:tokens")


@dataclass(frozen=True, slots=True)
class Shown:
    """One thing that the door does. takes, gives: field -> what it is, in words."""

    method: str
    path: str
    summary: str
    text: str
    takes: list[tuple[str, str]]
    gives: list[tuple[str, str]]


@member_required
def about(request: HttpRequest, member: Membership) -> HttpResponse:
    """The whole door on one page, made from the schema that it serves."""
    schema: dict[str, Any] = api.get_openapi_schema()
    shown = [
        _shown(schema, path, method, operation)
        for path, item in schema["paths"].items()
        for method, operation in item.items()
    ]
    scopes = [(scope.value, scope.label) for scope in Scope]
    context = {"shown": shown, "version": schema["info"]["version"], "scopes": scopes}
    return render(request, "api/about.html", context)


def _shown(schema: dict[str, Any], path: str, method: str, operation: dict[str, Any]) -> Shown:
    takes = [(one["name"], _kind(one["schema"])) for one in operation.get("parameters", [])]
    body = operation.get("requestBody", {}).get("content", {}).get("application/json", {})
    takes += _fields(schema, body.get("schema", {}))
    answer = operation["responses"].get(200, operation["responses"].get("200", {}))
    gives = _fields(schema, answer.get("content", {}).get("application/json", {}).get("schema", {}))
    text = operation.get("description", "")
    return Shown(method.upper(), path, operation["summary"], text, takes, gives)


def _fields(schema: dict[str, Any], shape: dict[str, Any]) -> list[tuple[str, str]]:
    shape = shape.get("items", shape)
    name = shape.get("$ref", "").rpartition("/")[2]
    schema_of = schema["components"]["schemas"].get(name, {})
    needed = set(schema_of.get("required", []))
    return [
        (key, _kind(one) + ("" if key in needed else ", may be left out"))
        for key, one in schema_of.get("properties", {}).items()
    ]


def _kind(shape: dict[str, Any]) -> str:
    """A field's kind in a few words."""
    if "anyOf" in shape:
        return " or ".join(_kind(one) for one in shape["anyOf"] if one.get("type") != "null")
    if "$ref" in shape:
        return str(shape["$ref"].rpartition("/")[2])
    if shape.get("type") == "array":
        return f"list of {_kind(shape.get('items', {}))}"
    if "enum" in shape:
        return " or ".join(map(str, shape["enum"]))
    return str(shape.get("format", shape.get("type", "anything")))
