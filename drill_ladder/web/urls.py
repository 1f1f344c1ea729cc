"""All addresses."""

from django.urls import include, path

from drill_ladder.apps.api.endpoints import api
from drill_ladder.web import health, middleware

urlpatterns = [
    path("health/", middleware.health, name="health"),
    path("ready/", health.ready, name="ready"),
    path("metrics/", health.metrics, name="metrics"),
    path("accounts/", include("drill_ladder.web.account_urls")),
    path("", include("drill_ladder.apps.progress.urls")),
    path("", include("drill_ladder.apps.people.urls")),
    path("", include("drill_ladder.apps.library.urls")),
    path("", include("drill_ladder.apps.prescriptions.urls")),
    path("", include("drill_ladder.apps.weeks.urls")),
    path("", include("drill_ladder.apps.practice.urls")),
    path("", include("drill_ladder.apps.card.urls")),
    path("", include("drill_ladder.apps.floor.urls")),
    path("", include("drill_ladder.apps.review.urls")),
    path("", include("drill_ladder.apps.messages.urls")),
    path("", include("drill_ladder.apps.exchange.urls")),
    path("", include("drill_ladder.apps.help.urls")),
    path("", include("drill_ladder.apps.records.urls")),
    path("", include("drill_ladder.apps.api.urls")),
    path("api/v1/", api.urls),
]

handler400 = "drill_ladder.web.errors.bad_request"
handler403 = "drill_ladder.web.errors.forbidden"
handler404 = "drill_ladder.web.errors.not_found"
handler500 = "drill_ladder.web.errors.server_error"
