from django.urls import path

from ridgeback.finding import pages

app_name = "finding"
urlpatterns = [path("find/", pages.find, name="search")]
