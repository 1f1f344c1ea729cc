"""Addresses of the outbox."""

from django.urls import path

from drill_ladder.apps.messages import views

app_name = "outbox"
urlpatterns = [
    path("club/outbox/", views.outbox, name="outbox"),
    path("club/outbox/<int:pk>/", views.message, name="message"),
    path("club/outbox/<int:pk>/mail.html", views.message_html, name="message-html"),
    path("club/outbox/<int:pk>/<slug:act>/", views.message_act, name="message-act"),
    path("club/mailbox/", views.mailbox, name="mailbox"),
    path("club/mailbox/<int:pk>/", views.mailbox_mail, name="mailbox-mail"),
    path("club/mailbox/<int:pk>/mail.html", views.mailbox_html, name="mailbox-html"),
    path("players/<int:pk>/mail-card/", views.card_link, name="card-link"),
    path("mail/<str:token>/", views.stops, name="stops"),
    path("mail/<str:token>/now/", views.stop_now, name="stop-now"),
]
