from django.urls import path

from ridgeback.planner import outside, pages, reading_pages, solve_pages, views, weekly, yearly

app_name = "planner"
urlpatterns = [
    path("habitats/<int:pk>/", views.bench, name="bench"),
    path("habitats/<int:pk>/save/", views.save, name="save"),
    path("habitats/<int:pk>/preview/", views.preview, name="preview"),
    path("habitats/<int:pk>/move/", views.move, name="move"),
    path("habitats/<int:pk>/part/", views.part, name="part"),
    path("habitats/<int:pk>/findings/", views.findings, name="findings"),
    path("habitats/<int:pk>/remedy/", views.remedy, name="remedy"),
    path("habitats/<int:pk>/undo/", views.undo, name="undo"),
    path("habitats/<int:pk>/redo/", views.redo, name="redo"),
    path("habitats/<int:pk>/what-if/", solve_pages.what_if, name="what-if"),
    path("habitats/<int:pk>/compare/", solve_pages.compare, name="compare"),
    path("habitats/<int:pk>/lamp/", solve_pages.lamp, name="lamp"),
    path("habitats/<int:pk>/lamp/take/", solve_pages.take_lamp, name="take-lamp"),
    path("habitats/<int:pk>/rig/", solve_pages.rig, name="rig"),
    path("habitats/<int:pk>/rig/search/", solve_pages.rig_search, name="rig-search"),
    path("habitats/<int:pk>/rig/take/", solve_pages.take_rig, name="take-rig"),
    path("habitats/<int:pk>/readings/", reading_pages.of_habitat, name="readings"),
    path("habitats/<int:pk>/readings/forget/", reading_pages.forget, name="forget-reading"),
    path("habitats/<int:pk>/readings/learn/", reading_pages.learn, name="learn"),
    path("habitats/<int:pk>/outdoors/", outside.outdoors, name="outdoors"),
    path("habitats/<int:pk>/week/", weekly.of_habitat, name="week"),
    path("habitats/<int:pk>/week/take/", weekly.take, name="take-mistings"),
    path("habitats/<int:pk>/year/", yearly.year, name="year"),
    path("habitats/<int:pk>/hours.json", pages.hours, name="hours"),
    path("habitats/<int:pk>/space/", pages.space, name="space"),
    path("habitats/<int:pk>/space/prices/", pages.prices, name="prices"),
    path("habitats/<int:pk>/space/take/", pages.take_size, name="take-size"),
    path("habitats/<int:pk>/schools/", pages.schools, name="schools"),
    path("habitats/<int:pk>/schools/take/", pages.take_school, name="take-school"),
    path("habitats/<int:pk>/book/", pages.book_changes, name="book"),
    path("habitats/<int:pk>/book/take/", pages.take_book, name="take-book"),
    path("habitats/<int:pk>/plan.json", views.export, name="export"),
]
