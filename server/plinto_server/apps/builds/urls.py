from django.urls import path

from plinto_server.apps.builds.api import BuildDetail, BuildList

urlpatterns = [
    path("builds", BuildList.as_view()),
    path("builds/<int:pk>", BuildDetail.as_view()),
]
