from django.urls import path

from ridgeback.daybook import instruments

app_name = "daybook"
urlpatterns = [
    path("instruments/", instruments.instruments, name="instruments"),
    path("instruments/<int:pk>/", instruments.correct, name="correct-instrument"),
]
