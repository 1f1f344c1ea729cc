"""Signing in and out, passwords, the second step, where somebody is signed in: the parts of allauth
that this program opens.
"""

from allauth.account import views
from allauth.mfa.base import views as two_steps
from allauth.mfa.recovery_codes import views as codes
from allauth.mfa.totp import views as app
from allauth.usersessions import views as sessions
from django.urls import path, re_path

from drill_ladder.apps.people.club import sign_in

urlpatterns = [
    path("login/", sign_in, name="account_login"),
    path("inactive/", views.account_inactive, name="account_inactive"),
    path("logout/", views.logout, name="account_logout"),
    path("again/", views.reauthenticate, name="account_reauthenticate"),
    path("password/", views.password_change, name="account_change_password"),
    path("password/new/", views.password_reset, name="account_reset_password"),
    path("password/new/sent/", views.password_reset_done, name="account_reset_password_done"),
    re_path(
        r"^password/new/(?P<uidb36>[0-9A-Za-z]+)-(?P<key>[-\w]+)/$",
        views.password_reset_from_key,
        name="account_reset_password_from_key",
    ),
    path(
        "password/new/done/",
        views.password_reset_from_key_done,
        name="account_reset_password_from_key_done",
    ),
    path("two-steps/", two_steps.index, name="mfa_index"),
    path("two-steps/code/", two_steps.authenticate, name="mfa_authenticate"),
    path("two-steps/again/", two_steps.reauthenticate, name="mfa_reauthenticate"),
    path("two-steps/on/", app.activate_totp, name="mfa_activate_totp"),
    path("two-steps/off/", app.deactivate_totp, name="mfa_deactivate_totp"),
    path("two-steps/spare/", codes.view_recovery_codes, name="mfa_view_recovery_codes"),
    path("two-steps/spare/new/", codes.generate_recovery_codes, name="mfa_generate_recovery_codes"),
    path(
        "two-steps/spare/file/", codes.download_recovery_codes, name="mfa_download_recovery_codes"
    ),
    path("sessions/", sessions.list_usersessions, name="usersessions_list"),
]
