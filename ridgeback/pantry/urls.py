from django.urls import URLPattern

app_name = "pantry"
urlpatterns: list[URLPattern] = []
