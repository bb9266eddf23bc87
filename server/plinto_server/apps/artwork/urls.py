from django.urls import path

from plinto_server.apps.artwork.api import ArtworkList, ArtworkPage

urlpatterns = [
    path("artwork", ArtworkList.as_view()),
    path("artwork/<int:pk>/page", ArtworkPage.as_view()),
]
