from django.urls import path

from plinto_server.apps.accounts.api import FirstRun, PasswordView, SessionView, TokenView

urlpatterns = [
    path("session", SessionView.as_view()),
    path("first-run", FirstRun.as_view()),
    path("password", PasswordView.as_view()),
    path("token", TokenView.as_view()),
]
