"""Addresses of the player's side: the home card, the calendars, paper."""

from django.urls import path

from drill_ladder.apps.card.opened import app_views, pin_views
from drill_ladder.apps.card.paper import typed_in_views as paper_in_views
from drill_ladder.apps.card.paper import views as paper_views
from drill_ladder.apps.card.reports import views as report_views
from drill_ladder.apps.card.today import own_views, routine_views, views
from drill_ladder.apps.card.today import session_views as corrections

app_name = "card"
urlpatterns = [
    path("card/sw.js", app_views.worker, name="worker"),
    path("card/<str:token>/", views.card, name="card"),
    path("card/<str:token>/card.webmanifest", app_views.manifest, name="manifest"),
    path("card/<str:token>/calendar.ics", paper_views.old_feed, name="old-calendar"),
    path("calendar/<str:token>/drills.ics", paper_views.feed, name="calendar"),
    path("card/<str:token>/week.pdf", paper_views.card_print, name="print"),
    path("feed/<str:token>/sessions.ics", paper_views.coach_feed, name="coach-feed"),
    path("players/<int:player>/card.pdf", paper_views.card_sheet, name="card-sheet"),
    path("players/<int:player>/card.svg", paper_views.card_qr, name="card-qr"),
    path("sheet/typed/", paper_in_views.typed_in, name="typed-in"),
    path("sheet.pdf", paper_views.sheet, name="sheet"),
    path("sheet/", paper_views.sheet_of_all, name="sheet-of-all"),
    path("card/<str:token>/report/<int:pk>/", report_views.report, name="report"),
    path(
        "card/<str:token>/report/<int:pk>/report.pdf",
        report_views.report_print,
        name="report-print",
    ),
    path("card/<str:token>/climb/", own_views.climb, name="climb"),
    path("card/<str:token>/pin/", pin_views.pin, name="pin"),
    path("card/<str:token>/hurt/", views.hurt, name="hurt"),
    path("card/<str:token>/done/<uuid:session>/", views.done, name="done"),
    path("card/<str:token>/session/<uuid:session>/", corrections.session, name="session"),
    path(
        "card/<str:token>/session/<uuid:session>/away/",
        corrections.session_away,
        name="session-away",
    ),
    path("card/<str:token>/back/<int:event>/", corrections.session_back, name="session-back"),
    path("card/<str:token>/routine/<int:pk>/", routine_views.routine, name="routine"),
    path("card/<str:token>/routine/<int:pk>/run/", routine_views.run, name="routine-run"),
    path(
        "card/<str:token>/routine/<int:pk>/<str:on>/",
        routine_views.routine_done,
        name="routine-done",
    ),
    path("card/<str:token>/<int:stay>/", views.block, name="block"),
    path("card/<str:token>/<int:stay>/run/", views.run, name="run"),
    path("card/<str:token>/<int:stay>/skip/", views.skipped, name="skip"),
]
