"""Addresses of weeks."""

from django.urls import path

from drill_ladder.apps.weeks import views

app_name = "weeks"
urlpatterns = [
    path("weeks/", views.squad, name="weeks"),
    path("weeks/<slug:what>/", views.squad_act, name="weeks-act"),
    path("players/<int:player>/week/", views.week, name="week"),
    path("players/<int:player>/week/<slug:what>/", views.act, name="week-act"),
    path("blocks/<int:pk>/<slug:what>/", views.block_act, name="block-act"),
]
