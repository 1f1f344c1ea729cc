"""Addresses of the open door."""

from django.urls import path

from drill_ladder.apps.api import views

app_name = "api"
urlpatterns = [
    path("open-door/", views.tokens, name="tokens"),
    path("open-door/<int:pk>/revoke/", views.revoke, name="revoke"),
    path("open-door/about/", views.about, name="about"),
]
