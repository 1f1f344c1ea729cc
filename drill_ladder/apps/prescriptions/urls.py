"""Addresses of prescribing."""

from django.urls import path

from drill_ladder.apps.prescriptions import views
from drill_ladder.apps.prescriptions.changes import views as change_views
from drill_ladder.apps.prescriptions.placing import views as placement_views
from drill_ladder.apps.prescriptions.routines import views as routine_views

app_name = "prescriptions"
urlpatterns = [
    path("players/<int:player>/prescribe/", views.choose, name="choose"),
    path("players/<int:player>/prescribe/<int:ladder>/", views.start, name="start"),
    path("players/<int:player>/place/<int:ladder>/", placement_views.placement, name="place"),
    path("players/<int:player>/focus/", views.focus, name="focus"),
    path("ladders/<int:ladder>/squads/<int:squad>/", views.squad_start, name="squad-start"),
    path("ladders/<int:ladder>/players/", views.standing, name="standing"),
    path("stays/<int:pk>/new-terms/", views.new_terms, name="new-terms"),
    path("stays/<int:pk>/back/", views.back, name="back"),
    path("routines/<int:pk>/", routine_views.routine, name="routine"),
    path("routines/<int:pk>/give/", routine_views.give, name="routine-give"),
    path("player-routines/<int:pk>/end/", routine_views.end, name="routine-end"),
    path("prescriptions/<int:pk>/change/", change_views.change, name="change"),
    path("prescriptions/<int:pk>/looked/", change_views.looked, name="looked"),
    path("prescriptions/<int:pk>/at-the-club/", change_views.at_club, name="at-club"),
    path("prescriptions/<int:pk>/end/", views.end, name="end"),
]
