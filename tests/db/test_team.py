"""Who belongs to a club: founded, invited, changed, handed over; a second step; two clubs."""

from datetime import timedelta

import pytest
from allauth.mfa.models import Authenticator
from allauth.mfa.recovery_codes.internal.auth import RecoveryCodes
from allauth.mfa.totp.internal.auth import (
    SECRET_SESSION_KEY,
    format_hotp_value,
    hotp_value,
    yield_hotp_counters_from_time,
)
from django.core import mail
from django.core.management import call_command
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.club.founding import new_code
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Invitation, Membership, Player, Squad, User
from drill_ladder.apps.people.team.services import (
    change_member,
    drop_squad,
    end_member,
    invite,
    save_squad,
    take_back,
)
from tests.make import PASSWORD, member, owner_of, text, world

LONG = "quite a long password"


@pytest.fixture
def owner(w):
    return owner_of(w.club)


@pytest.fixture
def as_owner(owner):
    client = Client()
    client.force_login(owner.user)
    return client


@pytest.fixture
def squads(w):
    return [Squad.objects.create(club=w.club, name=name) for name in ("Juniors", "Seniors")]


def test_a_club_is_founded_in_the_browser_with_a_code_once(db, capsys):
    call_command("founding_code")
    code = capsys.readouterr().out.split()[0]
    given = {
        "code": code.lower().replace("-", " "),
        "club": "Harbour",
        "time_zone": "Europe/Madrid",
        "name": "Olive",
        "email": "Olive@example.org",
        "password": LONG,
    }
    client = Client()
    assert client.get("/", follow=True).redirect_chain[-1][0] == "/found/"
    assert client.post("/found/", given | {"password": "short"}).status_code == 422
    assert client.post("/found/", given | {"time_zone": "Nowhere/Else"}).status_code == 422
    assert client.post("/found/", given | {"code": "AAAA-BBBB-CCCC"}).status_code == 422
    assert not Club.objects.exists()
    answer = client.post("/found/", given)
    assert answer.status_code == 302, text(answer)
    owner = Membership.objects.get()
    assert (owner.role, owner.club.time_zone) == ("owner", "Europe/Madrid")
    assert "Harbour" in text(client.get("/club/"))
    again = Client().post("/found/", given | {"email": "other@example.org"})
    assert "was used" in text(again)
    assert Club.objects.count() == 1


def test_a_code_is_over_after_a_day(db, monkeypatch):
    code = new_code()
    later = timezone.now() + timedelta(hours=25)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    given = {"club": "H", "time_zone": "Europe/London", "name": "O", "email": "o@example.org"}
    answer = Client().post("/found/", given | {"code": code, "password": LONG})
    assert answer.status_code == 422


def test_somebody_invited_joins_with_a_new_account_once(w, as_owner, squads):
    given = {"name": "Nia", "email": "Nia@example.org", "role": "assistant"}
    assert as_owner.post("/club/people/", given | {"squads": []}).status_code == 422
    answer = as_owner.post("/club/people/", given | {"squads": [squads[0].pk]})
    assert answer.status_code == 302
    row = Invitation.objects.get()
    page = text(as_owner.get("/club/people/"))
    assert f"/join/{row.token}/" in page
    new = Client()
    assert "Tern Harbour" in text(new.get(f"/join/{row.token}/"))
    assert new.post(f"/join/{row.token}/", {"name": "Nia", "password": "x"}).status_code == 422
    joined = new.post(f"/join/{row.token}/", {"name": "Nia", "password": LONG})
    assert joined.status_code == 302
    made = Membership.objects.get(user__email="nia@example.org")
    assert (made.role, made.every_squad) == ("assistant", False)
    assert [duty.squad for duty in made.duties.all()] == [squads[0]]
    assert w.player.name not in text(new.get("/players/"))
    assert Client().get(f"/join/{row.token}/").status_code == 404


def test_an_invitation_is_of_its_address_and_of_its_days(w, owner, monkeypatch):
    row = invite(member=owner, email="n@example.org", name="N", role="coach", squads=None)
    signed_in = Client()
    signed_in.force_login(w.coach.user)
    answer = signed_in.post(f"/join/{row.token}/")
    assert "is for n@example.org" in text(answer)
    assert signed_in.get(f"/join/{row.token[:-1]}x/").status_code == 404
    second = invite(member=owner, email="N@example.org", name="N", role="coach", squads=None)
    assert Client().get(f"/join/{row.token}/").status_code == 404
    later = timezone.now() + timedelta(days=8)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    assert Client().get(f"/join/{second.token}/").status_code == 404


def test_taken_back_it_lets_nobody_in(w, owner):
    row = invite(member=owner, email="n@example.org", name="N", role="coach", squads=None)
    take_back(member=owner, invitation=row)
    assert Client().post(f"/join/{row.token}/", {"name": "N", "password": LONG}).status_code == 404
    assert not User.objects.filter(email="n@example.org").exists()


def test_an_account_in_two_clubs_chooses_and_sees_which(w, owner):
    other = world("Second Club")
    row = invite(
        member=owner_of(other.club),
        email=w.coach.user.email,
        name="",
        role="assistant",
        squads=None,
    )
    client = Client()
    client.force_login(w.coach.user)
    assert client.post(f"/join/{row.token}/").status_code == 302
    assert "Second Club" in text(client.get("/"))
    assert client.get(f"/players/{w.player.pk}/").status_code == 404
    first = client.post("/account/club/", {"club": w.club.pk})
    assert first.status_code == 302
    assert client.get(f"/players/{w.player.pk}/").status_code == 200
    assert client.get(f"/players/{other.player.pk}/").status_code == 404
    strange = Club.objects.create(name="Strange")
    assert client.post("/account/club/", {"club": strange.pk}).status_code == 404
    fresh = Client()
    given = {"login": w.coach.user.email, "password": PASSWORD}
    assert fresh.post("/accounts/login/", given).headers["Location"] == "/account/"


def test_roles_change_and_one_owner_stays(w, owner, as_owner, squads):
    path = f"/club/people/{w.assistant.pk}/"
    answer = as_owner.post(path, {"role": "coach", "squads": ["all"]})
    assert answer.status_code == 302
    w.assistant.refresh_from_db()
    assert w.assistant.role == "coach"
    with pytest.raises(Refused, match="at least one owner"):
        change_member(member=owner, of=owner, role="coach", squads=None)
    with pytest.raises(Refused, match="at least one owner"):
        end_member(member=owner, of=owner, to=None)
    with pytest.raises(Refused, match="club's owner"):
        change_member(member=w.coach, of=w.assistant, role="owner", squads=None)


def test_a_coach_leaves_and_hands_over_in_one_step(w, owner, as_owner, squads):
    ids = [squad.pk for squad in squads]
    change_member(member=owner, of=w.coach, role="coach", squads=ids)
    feed = f"/feed/{w.coach.feed_token}/sessions.ics"
    theirs = Client()
    theirs.force_login(w.coach.user)
    assert theirs.get("/").status_code == 200
    path = f"/club/people/{w.coach.pk}/end/"
    assert "who takes their squads over" in text(as_owner.post(path))
    assert as_owner.post(path, {"to": w.assistant.pk}).status_code == 302
    assert {duty.squad for duty in w.assistant.duties.all()} == set(squads)
    assert theirs.get("/").status_code == 404
    assert Client().get(feed).status_code == 404
    told = Event.objects.of_verb("ended a membership").get()
    assert told.details["squads"] == ["Juniors", "Seniors"]


def test_squads_are_named_renamed_and_removed_when_empty(w, owner, as_owner):
    as_owner.post("/club/squads/", {"name": "Juniors"})
    squad = Squad.objects.get()
    as_owner.post("/club/squads/", {"name": "Youth", "squad": squad.pk})
    squad.refresh_from_db()
    assert squad.name == "Youth"
    with pytest.raises(Refused, match="already"):
        save_squad(member=owner, squad=None, name=" youth ")
    Player.objects.update(squad=squad)
    with pytest.raises(Refused, match="1 players"):
        drop_squad(member=owner, squad=squad)
    Player.objects.update(squad=None)
    as_owner.post(f"/club/squads/{squad.pk}/away/")
    assert not Squad.objects.exists()


def test_the_club_is_renamed_and_its_plans_measured_in_yards(w, owner, as_owner):
    given = {"name": "Tern", "time_zone": "Asia/Tokyo", "unit": "yd"}
    assert as_owner.post("/club/", given | {"time_zone": "x"}).status_code == 422
    assert as_owner.post("/club/", given).status_code == 302
    w.club.refresh_from_db()
    assert (w.club.name, w.club.time_zone, w.club.unit) == ("Tern", "Asia/Tokyo", "yd")
    w.drill.plan = None
    w.drill.save()
    assert '"units": "yd"' in text(as_owner.get(f"/drills/{w.drill.pk}/plan/"))


def test_a_forgotten_password_is_made_anew_by_mail_once(w):
    client = Client()
    answer = client.post("/accounts/password/new/", {"email": w.coach.user.email})
    assert answer.status_code == 302
    assert len(mail.outbox) == 1
    link = next(
        word for word in mail.outbox[0].body.split() if "/accounts/password/new/" in word
    ).partition("testserver")[2]
    page = client.get(link, follow=True)
    where = page.redirect_chain[-1][0]
    assert client.post(where, {"password1": LONG, "password2": LONG}).status_code == 302
    assert "was used" in text(Client().get(link, follow=True))
    given = {"login": w.coach.user.email, "password": LONG}
    assert client.post("/accounts/login/", given).status_code == 302
    client.post("/accounts/password/new/", {"email": "nobody@example.org"})
    assert len(mail.outbox) == 1


def test_the_second_step_is_asked_for_and_a_spare_code_opens_once(w):
    client = Client()
    given = {"login": w.coach.user.email, "password": PASSWORD}
    client.post("/accounts/login/", given)
    asked = client.get("/accounts/two-steps/on/").headers["Location"]
    assert asked.startswith("/accounts/again/")
    assert client.post(asked, {"password": "not it at all"}).status_code == 200
    client.post(asked, {"password": PASSWORD})
    page = client.get("/accounts/two-steps/on/")
    secret = client.session[SECRET_SESSION_KEY]
    assert secret in text(page)
    assert client.post("/accounts/two-steps/on/", {"code": "000000"}).status_code == 200
    counter = next(iter(yield_hotp_counters_from_time()))
    code = format_hotp_value(hotp_value(secret, counter))
    assert client.post("/accounts/two-steps/on/", {"code": code}).status_code == 302
    kept = Authenticator.objects.get(type="totp")
    assert secret not in str(kept.data)
    row = Authenticator.objects.get(type="recovery_codes")
    spare = RecoveryCodes(row).get_unused_codes()[0]
    fresh = Client()
    asked = fresh.post("/accounts/login/", given)
    assert asked.headers["Location"].startswith("/accounts/two-steps/code/")
    assert fresh.get("/").status_code == 302
    assert fresh.post("/accounts/two-steps/code/", {"code": spare}).status_code == 302
    assert fresh.get("/").status_code == 200
    third = Client()
    third.post("/accounts/login/", given)
    assert third.post("/accounts/two-steps/code/", {"code": spare}).status_code == 200
    assert third.get("/").status_code == 302


def test_signed_out_everywhere_else(w):
    here, there = Client(), Client()
    given = {"login": w.coach.user.email, "password": PASSWORD}
    for client in (here, there):
        client.post("/accounts/login/", given)
    assert "Another device" in text(here.get("/accounts/sessions/"))
    here.post("/accounts/sessions/")
    assert here.get("/").status_code == 200
    assert there.get("/").status_code == 302


def test_a_changed_password_signs_other_devices_out(w):
    here, there = Client(), Client()
    given = {"login": w.coach.user.email, "password": PASSWORD}
    for client in (here, there):
        client.post("/accounts/login/", given)
    new = {"oldpassword": PASSWORD, "password1": LONG, "password2": LONG}
    assert here.post("/accounts/password/", new).status_code == 302
    assert here.get("/").status_code == 200
    assert there.get("/").status_code == 302


def test_every_page_of_an_account_can_be_looked_at(w):
    client = Client()
    client.post("/accounts/login/", {"login": w.coach.user.email, "password": PASSWORD})
    for path in ("/account/", "/accounts/password/", "/accounts/two-steps/", "/accounts/again/"):
        assert client.get(path, follow=True).status_code == 200, path
    client.post("/account/", {"name": "Ruth of the Hall", "density": "compact"})
    w.coach.user.refresh_from_db()
    assert w.coach.user.name == "Ruth of the Hall"


def test_what_an_assistant_writes_reaches_their_squads_alone(w, squads):
    helper = member(w.club, "Hal", "assistant")
    change_member(member=owner_of(w.club), of=helper, role="assistant", squads=[squads[0].pk])
    client = Client()
    client.force_login(helper.user)
    answer = client.post(f"/players/{w.player.pk}/stop/", {"what": "knee"})
    assert answer.status_code == 404
    taps = {"device": "d", "after": 0, "taps": []}
    assert client.post("/floor/taps/", taps, "application/json").status_code == 200
