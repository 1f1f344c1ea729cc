"""Addresses of tables in and out."""

from django.urls import path

from drill_ladder.apps.exchange import views

app_name = "exchange"
urlpatterns = [
    path("roster.csv", views.roster_out, name="roster-out"),
    path("roster/in/", views.roster_in, name="roster-in"),
]
