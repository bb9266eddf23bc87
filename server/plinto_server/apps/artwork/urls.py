from django.urls import path

from plinto_server.apps.artwork.api import ArtworkList, ArtworkThumbnail

urlpatterns = [
    path("artwork", ArtworkList.as_view()),
    path("artwork/<int:pk>/thumbnail.png", ArtworkThumbnail.as_view()),
]
