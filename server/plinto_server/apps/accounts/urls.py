from django.urls import path

from plinto_server.apps.accounts.api import SessionView

urlpatterns = [path("session", SessionView.as_view())]
