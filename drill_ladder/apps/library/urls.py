"""Addresses of the library."""

from django.urls import path

from drill_ladder.apps.library import views

app_name = "library"
urlpatterns = [
    path("ladders/", views.ladders, name="ladders"),
    path("ladders/<int:pk>/", views.ladder, name="ladder"),
    path("ladders/<int:pk>/odds/<int:position>/", views.odds, name="odds"),
    path("drills/", views.drills, name="drills"),
    path("drills/<int:pk>/", views.drill, name="drill"),
]
