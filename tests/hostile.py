"""What a child, a hurried coach and an attacker send: values, forms and files that were never
meant.
"""

import io
import json
import random
import zipfile
from dataclasses import dataclass, field
from html.parser import HTMLParser
from typing import Any
from urllib.parse import quote, urlsplit

VALUES = [
    "",
    " ",
    "²",
    "٣",
    "-1",
    "0",
    "1.5",
    "1e400",
    "NaN",
    "Infinity",
    "9" * 30,
    "9" * 400,
    "9" * 5000,
    "2147483648",
    "\x00",
    "a\x00b",
    "a\nb\r\nc",
    "\ud800",
    "\u202eabc",
    "e\u0301" * 50,
    "👍🏽",
    "x" * 301,
    "x" * 20_000,
    "0001-01-01",
    "9999-12-31",
    "2026-02-30",
    "99999999999999999999-01-01",
    "²²²²-01",
    "[" * 1000,
    '{"a":' * 1000,
    "{}",
    "null",
    '[{"id": 1}]',
    "<script>alert(1)</script>",
    "'; --",
    "%s%n{0}{{x}}",
    "=1+1",
    "../../etc",
    "late:9999999999999999999999",
    "on",
    "yes",
]
QUERIES = [
    "of",
    "squad",
    "at",
    "after",
    "rung",
    "from",
    "told",
    "logged",
    "ladder",
    "drill",
    "player",
    "alarm",
    "page",
]


@dataclass
class Form:
    """A form as it stands on a page: where it goes, and its fields as they would be sent."""

    action: str
    method: str
    fields: dict[str, str] = field(default_factory=dict)
    upload: str = ""


class _Forms(HTMLParser):
    """The forms of a page with what they hold."""

    def __init__(self, page: str) -> None:
        super().__init__(convert_charrefs=True)
        self.page, self.found, self.area, self.select = page, [], "", ""

    def handle_starttag(self, tag: str, pairs: list[tuple[str, str | None]]) -> None:
        given = {key: value or "" for key, value in pairs}
        if tag == "form":
            self.found.append(
                Form(given.get("action") or self.page, given.get("method", "get").lower())
            )
        elif self.found and (name := given.get("name")):
            self._field(tag, name, given)
        elif (
            tag == "option"
            and self.select
            and ("selected" in given or not self.found[-1].fields.get(self.select))
        ):
            self.found[-1].fields[self.select] = given.get("value", "")

    def _field(self, tag: str, name: str, given: dict[str, str]) -> None:
        fields, kind = self.found[-1].fields, given.get("type", "text")
        if tag == "textarea":
            self.area, fields[name] = name, ""
        elif tag == "select":
            self.select, fields[name] = name, ""
        elif kind == "file":
            self.found[-1].upload = name
        elif kind in ("radio", "checkbox"):
            if "checked" in given or (kind == "radio" and name not in fields):
                fields[name] = given.get("value", "on")
        elif tag == "input" or (tag == "button" and given.get("value")):
            fields.setdefault(name, given.get("value", ""))

    def handle_endtag(self, tag: str) -> None:
        if tag == "textarea":
            self.area = ""
        if tag == "select":
            self.select = ""

    def handle_data(self, data: str) -> None:
        if self.area:
            self.found[-1].fields[self.area] += data


def forms_of(page: str, text: str) -> list[Form]:
    """Every form of a page that is posted."""
    parser = _Forms(page)
    parser.feed(text)
    return [form for form in parser.found if form.method == "post" and "logout" not in form.action]


def hostile(chance: random.Random) -> str:
    """One value."""
    return chance.choice(VALUES)


def spoiled(chance: random.Random, fields: dict[str, str]) -> dict[str, str]:
    """A form with one to four fields changed, one left out or one too many."""
    sent = {key: value for key, value in fields.items() if key != "csrfmiddlewaretoken"}
    for name in chance.sample(sorted(sent), min(len(sent), chance.randint(1, 4))):
        if chance.random() < 0.15:
            del sent[name]
        else:
            sent[name] = hostile(chance)
    if chance.random() < 0.2:
        sent[hostile(chance)] = hostile(chance)
    return {_sendable(key): _sendable(value) for key, value in sent.items()}


def spoiled_path(chance: random.Random, path: str) -> str:
    """An address with one of its parts replaced."""
    parts = urlsplit(path).path.split("/")
    numbers = [i for i, part in enumerate(parts) if part] or [0]
    parts[chance.choice(numbers)] = quote(_sendable(hostile(chance)[:3000]), safe="")
    return "/".join(parts)


def spoiled_query(chance: random.Random, path: str) -> str:
    """An address with a few queries that mean something somewhere."""
    names = chance.sample(QUERIES, chance.randint(1, 3))
    asked = [f"{name}={quote(_sendable(hostile(chance)[:3000]))}" for name in names]
    return f"{urlsplit(path).path}?{'&'.join(asked)}"


def _sendable(text: str) -> str:
    """Half a letter goes out as the bytes that a careless program sends for it."""
    return text.encode("utf-8", "replace").decode() if "\ud800" in text else text


def spoiled_file(chance: random.Random, good: bytes) -> bytes:
    """A file that was right, with bytes changed, cut, doubled, or with a hostile value inside."""
    kind = chance.randrange(5)
    at = chance.randrange(max(1, len(good)))
    if kind == 0:
        return good[:at]
    if kind == 1:
        return good[:at] + bytes(chance.randrange(256) for _ in range(8)) + good[at + 8 :]
    if kind == 2:
        return good[:at] + hostile(chance).encode("utf-8", "surrogatepass") + good[at:]
    if kind == 3:
        return good + good[at:]
    return hostile(chance).encode("utf-8", "surrogatepass")


def spoiled_document(chance: random.Random, document: Any) -> Any:
    """A JSON document with one value somewhere inside replaced."""
    copy = json.loads(json.dumps(document))
    spots = list(_spots(copy))
    if spots:
        holder, key = chance.choice(spots)
        odd: list[Any] = [
            None,
            True,
            [],
            {},
            -1,
            1.5,
            10**400,
            10**17,
            [[[]]],
            {"a": {"b": []}},
            *VALUES,
        ]
        holder[key] = chance.choice(odd)
    return copy


def _spots(value: Any) -> Any:
    if isinstance(value, dict | list):
        for key in value if isinstance(value, dict) else range(len(value)):
            yield value, key
            yield from _spots(value[key])


def spoiled_book(chance: random.Random, good: bytes) -> bytes:
    """An XLSX with one part of it missing, cut, or replaced."""
    out = io.BytesIO()
    with (
        zipfile.ZipFile(io.BytesIO(good)) as book,
        zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as other,
    ):
        names = book.namelist()
        target, kind = chance.choice(names), chance.randrange(4)
        for name in names:
            data = book.read(name)
            if name == target:
                if kind == 0:
                    continue
                data = spoiled_file(chance, data) if kind < 3 else b"\xff\xfe" + data
            other.writestr(name, data)
    return out.getvalue()
