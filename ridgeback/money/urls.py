from django.urls import path

from ridgeback.money import pages, price_pages

app_name = "money"
urlpatterns = [
    path("habitats/<int:pk>/money/", pages.habitat, name="habitat"),
    path("habitats/<int:pk>/money/tick/", pages.tick_line, name="tick"),
    path("habitats/<int:pk>/money/shopping.csv", pages.shopping_csv, name="csv"),
    path("rooms/<int:pk>/prices/", price_pages.prices, name="prices"),
]
