from django.urls import path

from plinto_server.apps.paths import api, followed_api, saving_api, spots_api

urlpatterns = [
    path("swatch-lists", api.SwatchLists.as_view()),
    path("swatch-lists/file", api.SwatchListReceipt.as_view()),
    path("swatch-lists/ready", api.ReadyList.as_view()),
    path("swatch-lists/sampled", api.SampledList.as_view()),
    path("swatch-lists/dominant", api.DominantList.as_view()),
    path("swatch-lists/after-a-step", followed_api.ListAfterStep.as_view()),
    path("swatch-lists/<int:pk>", api.SwatchListDetail.as_view()),
    path("swatch-lists/<int:pk>/copy", api.SwatchListCopy.as_view()),
    path("swatch-lists/<int:pk>/restore", api.SwatchListRestore.as_view()),
    path("swatch-lists/<int:pk>/file", api.SwatchListFile.as_view()),
    path("spot-builds", spots_api.SpotBuilds.as_view()),
    path("spot-builds/table", spots_api.SpotTable.as_view()),
    path("colour-paths", api.ColourPaths.as_view()),
    path("colour-paths/followed", followed_api.FollowedPath.as_view()),
    path("colour-paths/table", followed_api.FollowedTable.as_view()),
    path("colour-paths/picture", followed_api.FollowedPicture.as_view()),
    path("colour-paths/saved", saving_api.SavedPath.as_view()),
    path("colour-paths/<int:pk>", api.ColourPathDetail.as_view()),
    path("colour-paths/<int:pk>/restore", api.ColourPathRestore.as_view()),
]
