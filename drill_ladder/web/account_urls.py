"""Signing in and out: the only parts of allauth that this version opens."""

from allauth.account import views
from django.urls import path

urlpatterns = [
    path("login/", views.login, name="account_login"),
    path("inactive/", views.account_inactive, name="account_inactive"),
    path("logout/", views.logout, name="account_logout"),
]
