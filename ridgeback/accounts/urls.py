from django.urls import path

from ridgeback.accounts import views

app_name = "accounts"
urlpatterns = [
    path("sign-in/", views.SignIn.as_view(), name="sign-in"),
    path("sign-out/", views.sign_out, name="sign-out"),
    path("", views.account, name="account"),
    path("password/", views.ChangePassword.as_view(), name="password"),
    path("people/", views.people, name="people"),
    path("people/<int:pk>/reset-link/", views.reset_link, name="reset-link"),
    path("reset/<uidb64>/<token>/", views.SetPassword.as_view(), name="reset"),
]
