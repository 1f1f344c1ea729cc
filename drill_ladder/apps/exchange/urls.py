"""Addresses of tables in and out."""

from django.urls import path

from drill_ladder.apps.exchange import results_views, views

app_name = "exchange"
urlpatterns = [
    path("roster.csv", views.roster_out, name="roster-out"),
    path("roster/in/", views.roster_in, name="roster-in"),
    path("results/columns.csv", results_views.results_columns, name="results-columns"),
    path("results.<str:kind>", results_views.results_out, name="results-out"),
    path("results/in/", results_views.results_in, name="results-in"),
]
