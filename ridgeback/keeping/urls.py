from django.urls import path

from ridgeback.keeping import animal_pages, daybook_pages, exchange_pages, front_pages, photo_pages, round_pages

app_name = "keeping"
urlpatterns = [
    path("round/", round_pages.day, name="round"),
    path("round/entries/", round_pages.entries, name="round-entries"),
    path("round/order/<int:pk>/", round_pages.order, name="round-order"),
    path("round/worker.js", round_pages.worker, name="worker"),
    path("round/app.webmanifest", round_pages.manifest, name="manifest"),
    path("habitats/<int:pk>/now/", front_pages.now, name="now"),
    path("habitats/<int:pk>/now/end-quarantine/", front_pages.end_quarantine, name="end-quarantine"),
    path("habitats/<int:pk>/now/change-quarantine/", front_pages.change_quarantine, name="change-quarantine"),
    path("habitats/<int:pk>/now/follow/", front_pages.follow, name="follow"),
    path("habitats/<int:pk>/daybook/", daybook_pages.of_habitat, name="habitat-daybook"),
    path("habitats/<int:pk>/daybook/write/<slug:slug>/", daybook_pages.write_habitat, name="write-habitat"),
    path("habitats/<int:pk>/animals/new/", animal_pages.new, name="new-animal"),
    path("animals/", animal_pages.animals, name="animals"),
    path("animals/<int:pk>/", animal_pages.animal, name="animal"),
    path("animals/<int:pk>/describe/", animal_pages.change, name="describe"),
    path("animals/<int:pk>/move/", animal_pages.move_animal, name="move"),
    path("animals/<int:pk>/leave/", animal_pages.let_go, name="leave"),
    path("animals/<int:pk>/daybook/", daybook_pages.of_animal, name="animal-daybook"),
    path("animals/<int:pk>/daybook/write/<slug:slug>/", daybook_pages.write_animal, name="write-animal"),
    path("rooms/<int:pk>/daybook/", daybook_pages.of_room, name="room-daybook"),
    path("rooms/<int:pk>/daybook/write/<slug:slug>/", daybook_pages.write_room, name="write-room"),
    path("daybook/<int:pk>/correct/", daybook_pages.correct, name="correct"),
    path("daybook/<int:pk>/take-back/", daybook_pages.take_back, name="take-back"),
    path("daybook/<int:pk>/photo/", photo_pages.show, name="photo"),
    path("animals/<int:pk>/daybook.csv", exchange_pages.animal_csv, name="animal-csv"),
    path("animals/<int:pk>/daybook.json", exchange_pages.animal_json, name="animal-json"),
    path("animals/<int:pk>/history.pdf", exchange_pages.animal_pdf, name="animal-pdf"),
    path("habitats/<int:pk>/daybook.csv", exchange_pages.habitat_csv, name="habitat-csv"),
    path("rooms/<int:pk>/daybook.csv", exchange_pages.room_csv, name="room-csv"),
    path("rooms/<int:pk>/daybook/bring-in/", exchange_pages.bring_in, name="bring-in"),
    path("rooms/<int:pk>/daybook.json", exchange_pages.room_json, name="room-json"),
]
