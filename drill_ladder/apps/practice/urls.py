"""Addresses of logging and stops."""

from django.urls import path

from drill_ladder.apps.practice.routines import views as routine_views
from drill_ladder.apps.practice.sessions import log_views as views
from drill_ladder.apps.practice.sessions import views as session_views
from drill_ladder.apps.practice.stops import views as stop_views

app_name = "practice"
urlpatterns = [
    path("log/<int:stay>/", views.log, name="log"),
    path("log/routine/<int:pk>/", routine_views.log, name="routine-log"),
    path("sessions/<uuid:pk>/", session_views.session, name="session"),
    path("sessions/<uuid:pk>/away/", session_views.session_away, name="session-away"),
    path("sessions/<uuid:pk>/both/", session_views.both_real, name="both-real"),
    path("sessions/<uuid:pk>/read/", session_views.word_read, name="word-read"),
    path("players/<int:player>/sessions/", session_views.sessions, name="sessions"),
    path("sessions/back/<int:pk>/", session_views.session_back, name="session-back"),
    path("players/<int:player>/stop/", stop_views.stop_open, name="stop-open"),
    path("stops/new/", stop_views.stop_new, name="stop-new"),
    path("stops/<uuid:pk>/end/", stop_views.stop_end, name="stop-end"),
]
