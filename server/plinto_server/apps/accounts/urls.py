from django.urls import path

from plinto_server.apps.accounts.api import FirstRun, SessionView, TokenView

urlpatterns = [
    path("session", SessionView.as_view()),
    path("first-run", FirstRun.as_view()),
    path("token", TokenView.as_view()),
]
