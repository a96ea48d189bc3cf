from django.urls import path

from ridgeback.sharing import pages, paper_pages

app_name = "sharing"
urlpatterns = [
    path("rooms/<int:pk>/people/", pages.people, name="people"),
    path("rooms/<int:pk>/people/invite/", pages.invite, name="invite"),
    path("rooms/<int:pk>/people/readings/", pages.keep_readings, name="keep-readings"),
    path("rooms/<int:pk>/people/sitter/", pages.let_sit, name="let-sit"),
    path("invitations/<int:pk>/end/", pages.end_invitation, name="end-invitation"),
    path("members/<int:pk>/", pages.member, name="member"),
    path("sitters/<int:pk>/end/", pages.end_sitting, name="end-sitting"),
    path("join/<token>/", pages.join, name="join"),
    path("sit/<token>/", pages.sit, name="sit"),
    path("habitats/<int:pk>/public/", paper_pages.public_page, name="public-page"),
    path("habitats/<int:pk>/card/", paper_pages.cage_card, name="card"),
    path("habitats/<int:pk>/care-plan/", paper_pages.care_plan, name="care-plan"),
    path("habitats/<int:pk>/set-up-drawing/", paper_pages.setup_drawing, name="setup-drawing"),
    path("see/<token>/", paper_pages.see, name="see"),
    path("see/<token>/photo/", paper_pages.see_photo, name="see-photo"),
]
