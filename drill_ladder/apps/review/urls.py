"""Addresses of the review."""

from django.urls import path

from drill_ladder.apps.review import views

app_name = "review"
urlpatterns = [
    path("review/", views.queue, name="queue"),
    path("review/<int:pk>/decide/", views.decide, name="decide"),
    path("hall/after/", views.after, name="after"),
    path("standing/<int:stay>/move/", views.move, name="move"),
    path("review/lately/", views.lately, name="lately"),
    path("review/undo/<int:pk>/", views.take_back, name="undo"),
]
