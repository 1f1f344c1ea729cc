"""Addresses of looking back."""

from django.urls import path

from drill_ladder.apps.progress import views

app_name = "progress"
urlpatterns = [
    path("", views.desk, name="desk"),
    path("jobs/<int:pk>/", views.job, name="job"),
    path("jobs/<int:pk>/file/", views.job_file, name="job-file"),
    path("players/", views.players, name="players"),
    path("players/<int:pk>/", views.player, name="player"),
    path("players/<int:pk>/trail/", views.trail, name="trail"),
    path("players/<int:pk>/coverage/", views.covered, name="coverage"),
]
