"""Addresses of help."""

from django.urls import path

from drill_ladder.apps.help import views

app_name = "help"
urlpatterns = [
    path("help/", views.page_help, name="page"),
    path("help/words/", views.words, name="words"),
    path("help/methods/", views.methods, name="methods"),
    path("stays/<int:pk>/why/", views.why, name="why"),
]
