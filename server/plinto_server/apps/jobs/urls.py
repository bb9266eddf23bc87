from django.urls import path, re_path

from plinto_server.apps.jobs import api

urlpatterns = [
    path("jobs", api.JobList.as_view()),
    path("jobs/<int:pk>", api.JobDetail.as_view()),
    path("jobs/<int:pk>/destinations", api.DestinationList.as_view()),
    path("destinations/<int:pk>", api.DestinationDetail.as_view()),
    re_path(r"^destinations/(?P<pk>\d+)/(?P<step>undo|redo)$", api.DestinationStep.as_view()),
    path("destinations/<int:pk>/recipe", api.RecipeFile.as_view()),
    path("destinations/<int:pk>/view.png", api.View.as_view()),
    path("destinations/<int:pk>/intents", api.Figures.as_view()),
    path("destinations/<int:pk>/fit", api.FitAdvice.as_view()),
    path("destinations/<int:pk>/inks", api.Inks.as_view()),
    path("destinations/<int:pk>/neutral", api.Neutral.as_view()),
    path("destinations/<int:pk>/readout", api.Pointer.as_view()),
    path("destinations/<int:pk>/facts", api.Facts.as_view()),
]
