"""Every address."""

from django.urls import include, path

from ridgeback import health, metrics

urlpatterns = [
    path("health", health.health, name="health"),
    path("ready", health.ready, name="ready"),
    path("metrics", metrics.metrics, name="metrics"),
    path("", include("ridgeback.home.urls")),
    path("", include("ridgeback.planner.urls")),
    path("", include("ridgeback.daybook.urls")),
    path("", include("ridgeback.rota.urls")),
    path("", include("ridgeback.keeping.urls")),
    path("", include("ridgeback.uploads.urls")),
    path("", include("ridgeback.series.urls")),
    path("", include("ridgeback.metering.urls")),
    path("", include("ridgeback.building.urls")),
    path("", include("ridgeback.electrics.urls")),
    path("", include("ridgeback.money.urls")),
    path("", include("ridgeback.reviewing.urls")),
    path("", include("ridgeback.sharing.urls")),
    path("", include("ridgeback.api.urls")),
    path("", include("ridgeback.archive.urls")),
    path("", include("ridgeback.finding.urls")),
    path("handbook/", include("ridgeback.handbook.urls")),
    path("pantry/", include("ridgeback.rota.pantry_urls")),
    path("species/", include("ridgeback.book.urls")),
    path("account/", include("ridgeback.home.account_urls")),
]
handler400 = "ridgeback.health.bad_request"
handler403 = "ridgeback.health.forbidden"
handler404 = "ridgeback.health.not_found"
handler500 = "ridgeback.health.server_error"
