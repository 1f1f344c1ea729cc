"""Addresses about people."""

from django.urls import path

from drill_ladder.apps.people.agreements import views as agreement_views
from drill_ladder.apps.people.club import entrance_views
from drill_ladder.apps.people.club import views as club_views
from drill_ladder.apps.people.players import views
from drill_ladder.apps.people.team import account_views
from drill_ladder.apps.people.team import views as team_views

app_name = "people"
urlpatterns = [
    path("feed/new/", views.feed_renew, name="feed-renew"),
    path("players/new/", views.player_edit, name="player-new"),
    path("players/<int:pk>/edit/", views.player_edit, name="player-edit"),
    path("players/<int:pk>/pin/", views.card_pin, name="card-pin"),
    path("players/<int:pk>/link/<str:opens>/", views.link_renew, name="link-renew"),
    path("players/<int:pk>/agreements/", agreement_views.agreements, name="agreements"),
    path(
        "agreements/<int:pk>/withdraw/",
        agreement_views.agreement_withdraw,
        name="agreement-withdraw",
    ),
    path("club/", club_views.club, name="club"),
    path("club/squads/", club_views.squad_save, name="squad-save"),
    path("club/squads/<int:pk>/away/", club_views.squad_drop, name="squad-drop"),
    path("club/people/", team_views.team, name="team"),
    path("club/people/<int:pk>/", team_views.member_edit, name="member-edit"),
    path("club/people/<int:pk>/end/", team_views.member_end, name="member-end"),
    path("club/invitations/<int:pk>/back/", team_views.invitation_back, name="invitation-back"),
    path("account/", account_views.account, name="account"),
    path("account/club/", account_views.choose, name="choose-club"),
    path("join/<str:token>/", entrance_views.invited, name="join"),
    path("found/", entrance_views.founded, name="found"),
]
