from django.urls import path

from ridgeback.building import commissioning_pages, pages

app_name = "building"
urlpatterns = [
    path("habitats/<int:pk>/build/", pages.build, name="build"),
    path("habitats/<int:pk>/build/done/", pages.done, name="done"),
    path("habitats/<int:pk>/build/how/", pages.how, name="how"),
    path("habitats/<int:pk>/build/test/", commissioning_pages.test_run, name="test"),
    path("habitats/<int:pk>/build/end/", pages.end, name="end"),
    path("habitats/<int:pk>/build/build.ics", pages.ics, name="calendar"),
    path("habitats/<int:pk>/build/paper/", pages.on_paper, name="paper"),
]
