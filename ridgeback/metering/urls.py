from django.urls import path

from ridgeback.metering import channel_pages, file_pages, live_pages

app_name = "metering"
urlpatterns = [
    path("habitats/<int:pk>/live/", live_pages.live, name="live"),
    path("habitats/<int:pk>/charts/", live_pages.all_charts, name="charts"),
    path("habitats/<int:pk>/charts/paper/", live_pages.on_paper, name="paper"),
    path("channels/<int:pk>/", live_pages.one_chart, name="chart"),
    path("channels/<int:pk>/readings.csv", live_pages.readings_csv, name="readings-csv"),
    path("channels/<int:pk>/end/", channel_pages.end, name="end-channel"),
    path("notices/<int:pk>/quiet/", live_pages.quiet, name="quiet"),
    path("rooms/<int:pk>/channels/", channel_pages.channels, name="channels"),
    path("rooms/<int:pk>/devices/new/", channel_pages.new_device, name="new-device"),
    path("devices/<int:pk>/key/", channel_pages.renew_key, name="renew-key"),
    path("devices/<int:pk>/revoke/", channel_pages.revoke, name="revoke-device"),
    path("instruments/<int:pk>/check/", channel_pages.check, name="check"),
    path("rooms/<int:pk>/readings/file/", file_pages.bring, name="bring-file"),
    path("readings/files/<int:pk>/", file_pages.file, name="file"),
]
