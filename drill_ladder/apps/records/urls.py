"""Addresses of records."""

from django.urls import path

from drill_ladder.apps.records import history_views, practice_views, views

app_name = "records"
urlpatterns = [
    path("club/history/", history_views.history, name="history"),
    path("club/history.<slug:kind>", history_views.history_out, name="history-out"),
    path("practice/", practice_views.begin, name="practice"),
    path("practice/end/", practice_views.end, name="practice-end"),
    path("club/archive/", views.archive, name="archive"),
    path("club/records/", views.records, name="records"),
    path("players/<int:pk>/records/", views.of_player, name="player"),
    path("players/<int:pk>/records/all.zip", views.family, name="family"),
    path("players/<int:pk>/records/aside/", views.aside, name="aside"),
    path("players/<int:pk>/records/erase/", views.erase_player, name="erase"),
]
