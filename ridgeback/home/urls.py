from django.urls import path

from ridgeback.home import views

app_name = "rooms"
urlpatterns = [
    path("", views.home, name="home"),
    path("habitats/", views.habitats, name="habitats"),
    path("habitats/new/", views.new_habitat, name="new"),
    path("habitats/new/species/", views.find_species, name="find-species"),
    path("habitats/new/answer/", views.answer, name="answer"),
    path("habitats/import/", views.import_plan, name="import"),
    path("habitats/<int:pk>/set-aside/", views.set_aside, name="set-aside"),
    path("habitats/<int:pk>/bring-back/", views.bring_back, name="bring-back"),
]
