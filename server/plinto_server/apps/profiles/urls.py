from django.urls import path

from plinto_server.apps.profiles.api import ColourTableList, ProfileFile, ProfileList

urlpatterns = [
    path("profiles", ProfileList.as_view()),
    path("tables", ColourTableList.as_view()),
    path("profiles/<int:pk>/file", ProfileFile.as_view()),
]
