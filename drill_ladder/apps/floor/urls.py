"""Addresses of the floor."""

from django.urls import path

from drill_ladder.apps.floor import views

app_name = "floor"
urlpatterns = [
    path("stations/", views.stations, name="stations"),
    path("stations/<int:pk>/", views.station, name="station"),
    path("stations/<int:pk>/players/", views.station_change, name="station-change"),
]
