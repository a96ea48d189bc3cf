from django.urls import URLPattern

app_name = "rota"
urlpatterns: list[URLPattern] = []
