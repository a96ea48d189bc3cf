from django.urls import path

from ridgeback.handbook import pages

app_name = "handbook"
urlpatterns = [
    path("", pages.contents, name="contents"),
    path("words/", pages.words, name="words"),
    path("help/", pages.help_beside, name="help"),
    path("<slug:key>/", pages.page, name="page"),
]
