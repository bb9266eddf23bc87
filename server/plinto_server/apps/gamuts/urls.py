from django.urls import path

from plinto_server.apps.gamuts import api

urlpatterns = [
    path("gamuts", api.Gamuts.as_view()),
    path("gamuts/where", api.WhereInPicture.as_view()),
]
