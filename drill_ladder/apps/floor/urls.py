"""Addresses of the floor."""

from django.urls import path

from drill_ladder.apps.floor.challenges import views as challenge_views
from drill_ladder.apps.floor.hall import views as hall_views
from drill_ladder.apps.floor.stations import views
from drill_ladder.apps.floor.test_days import views as battery_views

app_name = "floor"
urlpatterns = [
    path("floor/", hall_views.hall, name="hall"),
    path("floor/sw.js", hall_views.worker, name="worker"),
    path("floor/taps/", hall_views.taps, name="taps"),
    path("floor/feed/", hall_views.feed, name="feed"),
    path("floor/turns/", hall_views.turns, name="turns"),
    path("floor/goal/", hall_views.goal, name="goal"),
    path("floor/guests/", hall_views.guest, name="guest"),
    path("floor/guests/<int:pk>/stays/", hall_views.guest_stays, name="guest-stays"),
    path("tests/", battery_views.tests, name="tests"),
    path("tests/new/", battery_views.protocol_edit, name="test-new"),
    path("tests/<int:pk>/", battery_views.protocol_edit, name="test-edit"),
    path("challenges/new/", challenge_views.challenge_new, name="challenge-new"),
    path("challenges/<int:pk>/", challenge_views.challenge, name="challenge"),
    path("test-days/new/", battery_views.battery_new, name="battery-new"),
    path("test-days/<int:pk>/", battery_views.battery, name="battery"),
    path("test-days/<int:pk>/finish/", battery_views.battery_finish, name="battery-finish"),
    path("test-days/<int:pk>/gate/<int:device>/", battery_views.call, name="gate-call"),
    path("test-days/trials/<int:pk>/back/", battery_views.trial_back, name="trial-back"),
    path("stations/", views.stations, name="stations"),
    path("stations/begin/", views.group_begin, name="group-begin"),
    path("stations/<int:pk>/", views.station, name="station"),
    path("stations/<int:pk>/players/", views.station_change, name="station-change"),
]
