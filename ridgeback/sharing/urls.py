from django.urls import path

from ridgeback.sharing import pages

app_name = "sharing"
urlpatterns = [
    path("rooms/<int:pk>/people/", pages.people, name="people"),
    path("rooms/<int:pk>/people/invite/", pages.invite, name="invite"),
    path("rooms/<int:pk>/people/sitter/", pages.let_sit, name="let-sit"),
    path("invitations/<int:pk>/end/", pages.end_invitation, name="end-invitation"),
    path("members/<int:pk>/", pages.member, name="member"),
    path("sitters/<int:pk>/end/", pages.end_sitting, name="end-sitting"),
    path("join/<token>/", pages.join, name="join"),
    path("sit/<token>/", pages.sit, name="sit"),
]
