from django.urls import path

from ridgeback.rota import calendar_pages, chore_pages, condition_pages, menu_pages, salad_pages, sharing_pages

app_name = "rota"
urlpatterns = [
    path("calendar/", calendar_pages.calendar, name="calendar"),
    path("calendar/done/", calendar_pages.done, name="done"),
    path("calendar/fed/", calendar_pages.fed, name="calendar-fed"),
    path("calendar/take-back/", calendar_pages.take_back, name="calendar-take-back"),
    path("calendar/move/", calendar_pages.move, name="move"),
    path("calendar/days/<int:pk>/", calendar_pages.room_days, name="room-days"),
    path("calendar/share/", sharing_pages.share, name="share"),
    path("calendar/share/subscribe/", sharing_pages.subscribe, name="subscribe"),
    path("calendar/share/<int:pk>/revoke/", sharing_pages.revoke, name="revoke"),
    path("calendar/rota.ics", sharing_pages.as_file, name="file"),
    path("calendar/rota.csv", sharing_pages.as_csv, name="csv"),
    path("calendar/sitter.pdf", sharing_pages.sitter_card, name="sitter"),
    path("c/<str:token>.ics", sharing_pages.subscribed, name="subscribed"),
    path("habitats/<int:pk>/salad/", salad_pages.of_habitat, name="salad"),
    path("habitats/<int:pk>/salad/take/", salad_pages.take, name="take-salad"),
    path("habitats/<int:pk>/feeding/", menu_pages.of_habitat, name="menu"),
    path("habitats/<int:pk>/feeding/fed/", menu_pages.fed, name="fed"),
    path("habitats/<int:pk>/feeding/take-back/", menu_pages.take_back, name="take-back"),
    path("habitats/<int:pk>/feeding/weigh/", menu_pages.weigh, name="weigh"),
    path("habitats/<int:pk>/feeding/fast/", menu_pages.fast, name="fast"),
    path("habitats/<int:pk>/feeding/names/", menu_pages.names, name="names"),
    path("habitats/<int:pk>/feeding/own/", menu_pages.own, name="own-menu"),
    path("habitats/<int:pk>/feeding/labels/", menu_pages.labels, name="powder-labels"),
    path("habitats/<int:pk>/feeding.ics", menu_pages.calendar, name="menu-calendar"),
    path("habitats/<int:pk>/chores/", chore_pages.of_habitat, name="chores"),
    path("habitats/<int:pk>/condition/", condition_pages.of_habitat, name="condition"),
    path("habitats/<int:pk>/condition/score/", condition_pages.scored, name="scored"),
]
