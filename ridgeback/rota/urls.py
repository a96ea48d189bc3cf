from django.urls import path

from ridgeback.rota import calendar_pages, menu_pages

app_name = "rota"
urlpatterns = [
    path("calendar/", calendar_pages.calendar, name="calendar"),
    path("calendar/done/", calendar_pages.done, name="done"),
    path("calendar/fed/", calendar_pages.fed, name="calendar-fed"),
    path("calendar/move/", calendar_pages.move, name="move"),
    path("calendar/days/<int:pk>/", calendar_pages.room_days, name="room-days"),
    path("habitats/<int:pk>/feeding/", menu_pages.of_habitat, name="menu"),
    path("habitats/<int:pk>/feeding/fed/", menu_pages.fed, name="fed"),
    path("habitats/<int:pk>/feeding/take-back/", menu_pages.take_back, name="take-back"),
    path("habitats/<int:pk>/feeding/own/", menu_pages.own, name="own-menu"),
    path("habitats/<int:pk>/feeding.ics", menu_pages.calendar, name="menu-calendar"),
    path("habitats/<int:pk>/condition/score/", menu_pages.scored, name="scored"),
]
