"""Every fault of an archive is a sentence; what cannot be read any more stands on the desk."""

import json
from datetime import timedelta
from io import BytesIO

import pytest
from django.db import connection
from django.test import Client

from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.records.archive.reading import Damaged, read_archive
from drill_ladder.apps.records.archive.restoring import restore_club
from drill_ladder.apps.records.archive.writing import archive_of
from drill_ladder.apps.records.documents import read_share
from tests.db.test_archive import inside, packed
from tests.make import text


@pytest.mark.parametrize(
    ("name", "change", "said"),
    [
        ("club.json", {"time_zone": "Mars/Olympus"}, "this zone is not known"),
        ("club.json", {"name": "x" * 400}, "at most 120 characters"),
        ("club.json", {"unit": "miles"}, "not a valid choice"),
        ("data/people.user.jsonl", {"email": f"{'x' * 500}@example.org"}, "email"),
        ("data/people.player.jsonl", {"joined_on": 7}, "a text was expected"),
        ("data/people.player.jsonl", {"joined_on": "2026-02-30"}, "a day was expected"),
        ("data/people.player.jsonl", {"home_light": "maybe"}, "yes or no was expected"),
        ("data/prescriptions.stay.jsonl", {"terms": {"rung": {}}}, "terms: $.rung"),
        ("data/library.drill.jsonl", {"cues": {"a": 1}}, "dict is not what it holds"),
        ("data/library.drill.jsonl", {"lanes": [["left"]]}, "a list of texts was expected"),
        ("data/practice.setrow.jsonl", {"faults": {"late": "x"}}, "a number under each name"),
        ("data/practice.session.jsonl", {"effort": 11}, "effort"),
    ],
)
def test_every_fault_is_a_sentence(full, name, change, said):
    files = inside(archive_of(full.club))
    if name == "club.json":
        files[name] = json.dumps(json.loads(files[name]) | change).encode()
    else:
        first, *rest = files[name].splitlines()
        files[name] = b"\n".join([json.dumps(json.loads(first) | change).encode(), *rest]) + b"\n"
    with pytest.raises((Damaged, Refused)) as error:
        restore_club(read_archive(BytesIO(packed(files))), "Again")
    assert said in str(error.value)


def test_a_document_that_cannot_be_read_stands_on_the_desk(full, today):
    stay = Stay.objects.filter(club=full.club).first()
    assert stay.terms
    assert sum(read_share(full.club, today + timedelta(days=n)) for n in range(7)) == 0
    with connection.cursor() as cursor:
        cursor.execute("UPDATE prescriptions_stay SET terms = '{}' WHERE id = %s", [stay.pk])
    counts = [read_share(full.club, today + timedelta(days=n)) for n in range(7)]
    assert counts[-1] == 1
    client = Client()
    client.force_login(full.coach.user)
    assert "A stored document cannot be read" in text(client.get("/"))
    Stay.objects.filter(pk=stay.pk).update(terms=stay.terms)
    assert [read_share(full.club, today + timedelta(days=n)) for n in range(7)][-1] == 0
