"""Addresses about people."""

from django.urls import path

from drill_ladder.apps.people import views

app_name = "people"
urlpatterns = [
    path("feed/new/", views.feed_renew, name="feed-renew"),
    path("players/new/", views.player_edit, name="player-new"),
    path("players/<int:pk>/edit/", views.player_edit, name="player-edit"),
    path("players/<int:pk>/pin/", views.card_pin, name="card-pin"),
    path("players/<int:pk>/link/<str:opens>/", views.link_renew, name="link-renew"),
]
