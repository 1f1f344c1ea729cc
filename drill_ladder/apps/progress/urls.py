"""Addresses of looking back."""

from django.urls import path

from drill_ladder.apps.progress.decisions import views as decision_views
from drill_ladder.apps.progress.desk import views
from drill_ladder.apps.progress.panels import views as look_back_views
from drill_ladder.apps.progress.player import views as player_views
from drill_ladder.apps.progress.report import views as report_views
from drill_ladder.apps.progress.season import views as term_views
from drill_ladder.apps.progress.squad import views as squad_views

app_name = "progress"
urlpatterns = [
    path("", views.desk, name="desk"),
    path("jobs/<int:pk>/", views.job, name="job"),
    path("jobs/<int:pk>/file/", views.job_file, name="job-file"),
    path("players/", player_views.players, name="players"),
    path("players/<int:pk>/", player_views.player, name="player"),
    path("players/<int:pk>/family/", player_views.family, name="family"),
    path("players/<int:pk>/decisions/", player_views.decisions, name="decisions"),
    path("players/<int:pk>/trail/", player_views.trail, name="trail"),
    path("players/<int:pk>/report/", report_views.report, name="report"),
    path("squads/<int:pk>/progress/", squad_views.squad, name="squad"),
    path("squads/<int:pk>/term/", term_views.term, name="term"),
    path("squads/<int:pk>/term/<slug:key>.<slug:kind>", term_views.term_file, name="term-file"),
    path("reports/", report_views.reports, name="reports"),
    path("reports/<int:pk>/report.pdf", report_views.report_print, name="report-print"),
    path("find/", views.found, name="find"),
    path("insights/", squad_views.insights, name="insights"),
    path("own-decisions/", decision_views.own_decisions, name="own-decisions"),
    path("ladders/<int:pk>/steps/", decision_views.health, name="health"),
    path("ladders/<int:pk>/replay/<int:position>/", decision_views.replay, name="replay"),
    path("players/<int:pk>/progress/", look_back_views.look_back, name="look-back"),
    path(
        "players/<int:pk>/progress/<slug:key>.<slug:kind>",
        look_back_views.panel_file,
        name="panel-file",
    ),
    path("players/<int:pk>/coverage/", player_views.covered, name="coverage"),
    path("players/<int:pk>/coverage/first/", player_views.cover_first, name="cover-first"),
    path("players/<int:pk>/coverage/gap/", player_views.cover_gap, name="cover-gap"),
]
