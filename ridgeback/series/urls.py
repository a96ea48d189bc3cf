from django.urls import path

from ridgeback.series import api

app_name = "series"
urlpatterns = [path("api/readings/", api.readings, name="readings")]
