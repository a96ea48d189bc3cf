from django.urls import path

from ridgeback.book import mine, views

app_name = "book"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("compare/", views.compare, name="compare"),
    path("sources/", views.sources, name="sources"),
    path("mine/", mine.index, name="mine"),
    path("mine/take-in/", mine.take_in, name="take-in"),
    path("mine/<int:pk>/", mine.edit, name="edit"),
    path("mine/<int:pk>/delete/", mine.delete, name="delete"),
    path("mine/<int:pk>/profile.toml", mine.export, {"kind": "toml"}, name="export-toml"),
    path("mine/<int:pk>/profile.json", mine.export, {"kind": "json"}, name="export-json"),
    path("<slug:species>/", views.sheet, name="sheet"),
    path("<slug:species>/copy/", mine.copy, name="copy"),
    path("<slug:species>/sheet.pdf", views.on_paper, name="print"),
]
