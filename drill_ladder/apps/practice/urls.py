"""Addresses of the home card, logging and stops."""

from django.urls import path

from drill_ladder.apps.practice import views

app_name = "practice"
urlpatterns = [
    path("card/<str:token>/", views.card, name="card"),
    path("card/<str:token>/hurt/", views.hurt, name="hurt"),
    path("card/<str:token>/done/<uuid:session>/", views.done, name="done"),
    path("card/<str:token>/<int:stay>/", views.block, name="block"),
    path("log/<int:stay>/", views.log, name="log"),
    path("players/<int:player>/stop/", views.stop_open, name="stop-open"),
    path("stops/<uuid:pk>/end/", views.stop_end, name="stop-end"),
]
