from django.urls import path

from plinto_server.apps.artwork.api import ArtworkList, ArtworkPage, ArtworkThumbnail

urlpatterns = [
    path("artwork", ArtworkList.as_view()),
    path("artwork/<int:pk>/page", ArtworkPage.as_view()),
    path("artwork/<int:pk>/thumbnail.png", ArtworkThumbnail.as_view()),
]
