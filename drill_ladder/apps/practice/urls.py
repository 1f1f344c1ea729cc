"""Addresses of the home card, logging and stops."""

from django.urls import path

from drill_ladder.apps.practice import sheet_views, station_views, stop_views, views

app_name = "practice"
urlpatterns = [
    path("card/<str:token>/", views.card, name="card"),
    path("card/<str:token>/calendar.ics", sheet_views.old_feed, name="old-calendar"),
    path("calendar/<str:token>/drills.ics", sheet_views.feed, name="calendar"),
    path("card/<str:token>/week.pdf", sheet_views.card_print, name="print"),
    path("feed/<str:token>/sessions.ics", sheet_views.coach_feed, name="coach-feed"),
    path("players/<int:player>/card.pdf", sheet_views.card_sheet, name="card-sheet"),
    path("stations/", station_views.stations, name="stations"),
    path("stations/<int:pk>/", station_views.station, name="station"),
    path("stations/<int:pk>/players/", station_views.station_change, name="station-change"),
    path("sheet.pdf", sheet_views.sheet, name="sheet"),
    path("card/<str:token>/hurt/", views.hurt, name="hurt"),
    path("card/<str:token>/done/<uuid:session>/", views.done, name="done"),
    path("card/<str:token>/<int:stay>/", views.block, name="block"),
    path("log/<int:stay>/", views.log, name="log"),
    path("players/<int:player>/stop/", stop_views.stop_open, name="stop-open"),
    path("stops/new/", stop_views.stop_new, name="stop-new"),
    path("stops/<uuid:pk>/end/", stop_views.stop_end, name="stop-end"),
]
