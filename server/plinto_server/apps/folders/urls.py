from django.urls import path

from plinto_server.apps.folders import api

urlpatterns = [
    path("folders", api.FolderList.as_view()),
    path("folders/<int:pk>", api.FolderDetail.as_view()),
    path("folders/<int:pk>/restore", api.FolderRestore.as_view()),
    path("folders/<int:pk>/uses", api.FolderUses.as_view()),
    path("folders/<int:pk>/files", api.FolderDrop.as_view()),
    path("folders/<int:pk>/finished", api.FolderHand.as_view()),
]
