from django.urls import path

from ridgeback.accounts import appearance, second, sessions, views
from ridgeback.rooms import people

app_name = "accounts"
urlpatterns = [
    path("appearance/", appearance.appearance, name="appearance"),
    path("sign-in/", views.SignIn.as_view(), name="sign-in"),
    path("sign-out/", views.sign_out, name="sign-out"),
    path("", views.account, name="account"),
    path("password/", views.ChangePassword.as_view(), name="password"),
    path("second/", second.second, name="second"),
    path("second/set-up/", second.set_up, name="set-up-second"),
    path("second/codes/", second.new_codes, name="new-codes"),
    path("second/off/", second.turn_off, name="second-off"),
    path("signed-in/end/", sessions.end, name="end-session"),
    path("people/", people.people, name="people"),
    path("people/invitations/<int:pk>/end/", people.end_invitation, name="end-invitation"),
    path("welcome/<str:token>/", people.welcome, name="welcome"),
    path("forgotten/", views.forgotten, name="forgotten"),
    path("people/<int:pk>/reset-link/", people.reset_link, name="reset-link"),
    path("people/<int:pk>/second-off/", people.second_off, name="second-off-for"),
    path("reset/<uidb64>/<token>/", views.SetPassword.as_view(), name="reset"),
]
