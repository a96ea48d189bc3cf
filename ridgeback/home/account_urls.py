from django.urls import path

from ridgeback.accounts import appearance, views
from ridgeback.rooms import people

app_name = "accounts"
urlpatterns = [
    path("appearance/", appearance.appearance, name="appearance"),
    path("sign-in/", views.SignIn.as_view(), name="sign-in"),
    path("sign-out/", views.sign_out, name="sign-out"),
    path("", views.account, name="account"),
    path("password/", views.ChangePassword.as_view(), name="password"),
    path("people/", people.people, name="people"),
    path("people/<int:pk>/reset-link/", people.reset_link, name="reset-link"),
    path("reset/<uidb64>/<token>/", views.SetPassword.as_view(), name="reset"),
]
