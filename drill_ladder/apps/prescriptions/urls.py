"""Addresses of prescribing."""

from django.urls import path

from drill_ladder.apps.prescriptions import views

app_name = "prescriptions"
urlpatterns = [
    path("players/<int:player>/prescribe/", views.choose, name="choose"),
    path("players/<int:player>/prescribe/<int:ladder>/", views.start, name="start"),
    path("ladders/<int:ladder>/players/", views.standing, name="standing"),
    path("stays/<int:pk>/new-terms/", views.new_terms, name="new-terms"),
    path("prescriptions/<int:pk>/end/", views.end, name="end"),
]
