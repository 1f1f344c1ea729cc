"""Addresses of logging and stops."""

from django.urls import path

from drill_ladder.apps.practice import stop_views, views

app_name = "practice"
urlpatterns = [
    path("log/<int:stay>/", views.log, name="log"),
    path("players/<int:player>/stop/", stop_views.stop_open, name="stop-open"),
    path("stops/new/", stop_views.stop_new, name="stop-new"),
    path("stops/<uuid:pk>/end/", stop_views.stop_end, name="stop-end"),
]
