from django.urls import path

from ridgeback.reviewing import pages

app_name = "reviewing"
urlpatterns = [path("review/", pages.review, name="review")]
