"""A club as one file, and back: byte by byte, beside itself, and never half."""

import json
import os
import random
from datetime import timedelta
from hashlib import sha256
from io import BytesIO
from zipfile import ZIP_DEFLATED, ZipFile

import pytest
from django.core.management import CommandError, call_command
from django.db import transaction
from django.test import Client

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, SecretLink, User
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow
from drill_ladder.apps.practice.sessions.corrections import AWAY, bring_back, take_away
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.records.archive.reading import Damaged, read_archive
from drill_ladder.apps.records.archive.restoring import restore_club
from drill_ladder.apps.records.archive.tables import LEFT_OUT, tables
from drill_ladder.apps.records.archive.writing import archive_of, document
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of
from tests.make import log, owner_of, put_on, text


def inside(data):
    file = ZipFile(BytesIO(data))
    return {name: file.read(name) for name in file.namelist()}


def packed(files):
    """An archive of other bytes, whose manifest says so."""
    manifest = json.loads(files["manifest.json"])
    for one in manifest["files"]:
        data = files.get(one["name"], b"")
        one |= {"sha256": sha256(data).hexdigest(), "bytes": len(data)}
        if "rows" in one:
            one["rows"] = data.count(b"\n")
    return zipped(files | {"manifest.json": document(manifest)})


def zipped(files):
    out = BytesIO()
    with ZipFile(out, "w", ZIP_DEFLATED) as file:
        for name, data in files.items():
            file.writestr(name, data)
    return out.getvalue()


def faults_of(data):
    with pytest.raises(Damaged) as error:
        read_archive(BytesIO(data))
    return error.value.faults


def test_restored_beside_itself_it_is_written_byte_by_byte_alike(full):
    first = archive_of(full.club)
    assert archive_of(full.club) == first
    again = restore_club(read_archive(BytesIO(first)))
    second = archive_of(again)
    ours, theirs = inside(first), inside(second)
    assert {name for name in ours if ours[name] != theirs.get(name)} == set()
    assert second == first
    third = restore_club(read_archive(BytesIO(second)))
    assert archive_of(third) == first


def test_it_holds_every_table_of_a_club(full):
    names = set(inside(archive_of(full.club)))
    assert {table.file for table in tables()} <= names
    assert {"roster.csv", "results.csv", "library.json", "club.json", "README.txt"} <= names
    assert len(LEFT_OUT) == 14  # another table left out is a decision
    filled = [name for name, data in inside(archive_of(full.club)).items() if data.strip()]
    assert len(filled) > 35


def test_the_restored_club_works_and_the_first_one_is_untouched(full, today):
    before = archive_of(full.club)
    again = restore_club(read_archive(BytesIO(before)), "Second Harbour")
    player = Player.objects.get(club=again, name=full.player.name)
    assert player.pk != full.player.pk
    coach = Client()
    member = Membership.objects.get(club=again, user=full.coach.user)
    coach.force_login(full.coach.user)
    coach.post("/account/club/", {"club": again.pk})
    for path in ("", "progress/", "week/", "sessions/", "records/"):
        assert coach.get(f"/players/{player.pk}/{path}").status_code == 200, path
    week = Week.objects.get(club=again, monday=monday_of(today))
    ladders = set(Prescription.objects.filter(club=again).values_list("pk", flat=True))
    stays = set(Stay.objects.filter(club=again).values_list("pk", flat=True))
    assert week.published
    for block in week.published:
        assert block.prescription in ladders
        assert block.stay in stays
    said, back = FloorTap.objects.filter(club=again).order_by("pk")
    assert back.value["of"] == str(said.uid)
    link = SecretLink.objects.get(club=again, player=player, opens="card")
    assert Client().get(f"/card/{link.token}/").status_code == 200
    assert Client().get(f"/card/{full.token}/").status_code == 200
    place = Prescription.objects.filter(club=again, status="active").first()
    log(place, today, 9, 9)
    assert (
        Session.objects.filter(club=again).count()
        == 1 + Session.objects.filter(club=full.club).count()
    )
    assert archive_of(full.club) == before
    assert member.role == "coach"


def test_what_was_taken_away_comes_back_in_the_restored_club(w, today):
    p = put_on(w, on=today - timedelta(days=3))
    away = take_away(session=log(p, today, 7, 7), actor=None, today=today)
    data = archive_of(w.club)
    again = restore_club(read_archive(BytesIO(data)))
    event = Event.objects.of_club(again.pk).of_verb(AWAY).get()
    assert event.pk != away.pk
    stay = Stay.objects.get(club=again)
    row = bring_back(event=event, stay=stay, actor=None, today=today)
    assert SetRow.objects.filter(session=row).count() == 2
    assert JudgedDay.objects.filter(club=again, on=today).exists()


def test_somebody_without_an_account_gets_one_that_opens_nothing(w):
    data = archive_of(w.club)
    emails = {w.coach.user.email, w.assistant.user.email}
    Club.objects.exclude(pk=w.club.pk).delete()
    Membership.objects.all().delete()
    User.objects.all().delete()
    again = restore_club(read_archive(BytesIO(data)))
    members = Membership.objects.filter(club=again).select_related("user")
    assert {member.user.email for member in members} == emails
    assert not any(member.user.has_usable_password() for member in members)
    assert archive_of(again) == data


def test_every_fault_of_a_damaged_archive_is_named_and_nothing_stored(full):
    files = inside(archive_of(full.club))
    clubs = Club.objects.count()
    gone = {name: data for name, data in files.items() if name != "roster.csv"}
    gone["data/people.player.jsonl"] += b"x"
    gone["more.txt"] = b"?"
    faults = faults_of(zipped(gone))
    assert faults == [
        "more.txt is in the file and not in its manifest.",
        "data/people.player.jsonl is not as it was written: its checksum differs.",
        "roster.csv is missing.",
    ]
    assert faults_of(b"no zip at all")[0].startswith("The file is no ZIP")
    assert faults_of(zipped({"a": b""})) == [
        "manifest.json is not in it: this is no archive of a club."
    ]
    newer = json.loads(files["manifest.json"]) | {"version": 2}
    assert "newer" in faults_of(zipped(files | {"manifest.json": document(newer)}))[0]
    assert Club.objects.count() == clubs


def test_rows_that_point_nowhere_or_hold_strange_columns_are_named(full):
    files = inside(archive_of(full.club))
    rows = [json.loads(one) for one in files["data/prescriptions.stay.jsonl"].splitlines()]
    rows[0]["prescription_id"] = 9999
    rows[0]["colour"] = "red"
    del rows[0]["arrived"]
    files["data/prescriptions.stay.jsonl"] = (
        b"".join(json.dumps(row).encode() + b"\n" for row in rows) + b"not json\n"
    )
    faults = faults_of(packed(files))
    told = "data/prescriptions.stay.jsonl, row"
    assert f"{told} {len(rows) + 1} is no JSON object." in faults
    assert f"{told} 1: colour is no column of this table." in faults
    assert f"{told} 1: arrived is missing." in faults
    assert any("points at prescriptions.Prescription 9999" in one for one in faults)


def test_what_the_database_refuses_is_said_and_nothing_is_stored(full):
    files = inside(archive_of(full.club))
    rows = [json.loads(one) for one in files["data/people.player.jsonl"].splitlines()]
    rows[0]["height_cm"] = 9000
    files["data/people.player.jsonl"] = b"".join(json.dumps(row).encode() + b"\n" for row in rows)
    clubs = Club.objects.count()

    with pytest.raises(Refused, match="height_in_centimetres"):
        restore_club(read_archive(BytesIO(packed(files))))
    assert Club.objects.count() == clubs


def test_an_archive_of_an_earlier_version_gets_what_it_did_not_know(full):
    files = inside(archive_of(full.club))
    name = "data/people.player.jsonl"
    rows = [json.loads(one) for one in files[name].splitlines()]
    for row in rows:
        del row["archived_on"], row["erased_on"]
    files[name] = b"".join(json.dumps(row).encode() + b"\n" for row in rows)
    again = restore_club(read_archive(BytesIO(packed(files))))
    assert archive_of(again) == archive_of(full.club)


def test_by_the_command_line(full, tmp_path, capsys):
    file = tmp_path / "club.zip"
    call_command("archive_club", full.club.name, file)
    call_command("restore_club", file, check=True)
    call_command("restore_club", file, name="Third Harbour")
    assert "Third Harbour is restored" in capsys.readouterr().out
    assert Club.objects.filter(name="Third Harbour").exists()
    file.write_bytes(file.read_bytes()[:-400])
    with pytest.raises(CommandError, match="Nothing was restored"):
        call_command("restore_club", file)
    with pytest.raises(CommandError, match="There is no club"):
        call_command("archive_club", "Nowhere", file)


def test_by_the_browser_as_long_work(full):
    owner = Client()
    owner.force_login(owner_of(full.club).user)
    answer = owner.post("/club/archive/")
    job = Job.objects.latest("pk")
    assert answer.headers["Location"] == f"/jobs/{job.pk}/"
    file = owner.get(f"/jobs/{job.pk}/file/")
    assert file.headers["Content-Disposition"].startswith("attachment")
    assert read_archive(BytesIO(file.content)).club["name"] == full.club.name
    assert "whole club" in text(owner.get("/club/records/"))
    assert Proposal.objects.exists()


def test_spoiled_bytes_are_a_named_fault_or_change_nothing(full):
    """Whatever a disk or a person does to a file: it is refused, or read as it was."""
    data = archive_of(full.club)
    whole, chance = read_archive(BytesIO(data)), random.Random(20261126)
    refused = []
    for _ in range(300):
        spoiled = bytearray(data)
        act = chance.choice(("flip", "cut", "zero", "insert"))
        at = chance.randrange(len(data))
        if act == "flip":
            spoiled[at] ^= 1 << chance.randrange(8)
        elif act == "cut":
            del spoiled[at : at + chance.randrange(1, 400)]
        elif act == "zero":
            spoiled[at : at + 64] = bytes(64)
        else:
            spoiled[at:at] = chance.randbytes(16)
        try:
            read = read_archive(BytesIO(bytes(spoiled)))
        except Damaged as error:
            refused.append(error.faults)
        else:
            assert read == whole
    assert len(refused) > 200
    assert all(all(faults) for faults in refused)


# --- what goes out comes back, and nothing else


JUNK = (
    *(None, True, False, -1, 0, 7, 10**30, 1.5, "", "x", "x" * 500, "\x00", "\ud800"),
    *("2026-02-30", "9999-12-31", "2026-11-28T10:00:00", "Mars/Olympus", "a@b"),
    *([], {}, [[[[1]]]], {"a": {"b": None}}, [None], ["x"] * 9, {"depth": 1}),
    f"{'x' * 500}@example.org",
)


def spoiled(files, chance):
    """One value of one row is another one, somewhere in a document or in a column."""
    names = [name for name in files if name.endswith((".jsonl", "club.json")) and files[name]]
    name = chance.choice(sorted(names))
    lines = files[name].splitlines()
    at = chance.randrange(len(lines)) if name.endswith("l") else 0
    row = json.loads(lines[at] if name.endswith("l") else files[name])
    place, key = row, chance.choice(sorted(row) or [""])
    while (
        isinstance(place.get(key) if isinstance(place, dict) else None, dict)
        and chance.random() < 0.7
    ):
        inner = place[key]
        if not inner:
            break
        place, key = inner, chance.choice(sorted(inner))
    act = chance.choice(["put", "put", "put", "drop", "add", "deep"])
    if act == "put":
        place[key] = chance.choice([*JUNK, place.get(key)])
    elif act == "drop":
        place.pop(key, None)
    elif act == "add":
        place["strange"] = 1
    text = json.dumps(row).encode()
    if act == "deep":
        text = b'{"a":' * 3000 + b"1" + b"}" * 3000
    if not name.endswith("l"):
        return files | {name: text}
    return files | {name: b"\n".join([*lines[:at], text, *lines[at + 1 :]]) + b"\n"}


LOOKED_AT = ("/", "/players/", "/review/", "/drills/", "/ladders/", "/weeks/", "/floor/", "/tests/")


def test_a_spoiled_archive_is_a_named_fault_or_a_club_whose_pages_open(full):
    """./ladder bench --archives tries a thousand."""
    files, chance = inside(archive_of(full.club)), random.Random(int(os.environ.get("SEED", 23)))
    owner = owner_of(full.club).user
    restored, said = 0, []
    for number in range(int(os.environ.get("SPOILED_ARCHIVES", 60))):
        data = packed(spoiled(files, chance))
        with transaction.atomic():
            try:
                with transaction.atomic():
                    club = restore_club(read_archive(BytesIO(data)), f"Again {number}")
            except (Damaged, Refused) as error:
                said.append(str(error))
            else:
                restored += 1
                look_at(club, owner)
            transaction.set_rollback(True)
    assert restored
    assert all(said)


def look_at(club, user):
    """The pages of a restored club open, and it can be written again."""
    owner, _ = Membership.objects.get_or_create(club=club, user=user, defaults={"role": "owner"})
    Membership.objects.filter(pk=owner.pk).update(role="owner")
    client = Client()
    client.force_login(user)
    client.post("/account/club/", {"club": club.pk})
    pages = [*LOOKED_AT, *(f"/players/{pk}/" for pk in club.players.values_list("pk", flat=True))]
    for path in pages:
        assert client.get(path).status_code in (200, 302, 404), path
    archive_of(club)


def test_written_again_after_restoring_it_is_the_same_file_whole(full):
    """Also what people read in it: results in one order, however the rows came."""
    first = archive_of(full.club)
    club = restore_club(read_archive(BytesIO(first)), full.club.name)
    again = inside(archive_of(club))
    assert {name for name, data in inside(first).items() if again[name] != data} == set()
