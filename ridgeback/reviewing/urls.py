from django.urls import path

from ridgeback.reviewing import pages

app_name = "reviewing"
urlpatterns = [
    path("review/", pages.review, name="review"),
    path("review/drawing/", pages.drawing, name="drawing"),
    path("review/proposed/", pages.proposed, name="proposed"),
    path("review/paper/", pages.paper, name="paper"),
    path("review/start/", pages.start, name="start"),
]
