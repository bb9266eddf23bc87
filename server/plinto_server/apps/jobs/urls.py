from django.urls import path, re_path

from plinto_server.apps.jobs.api import figures, jobs, recipes, views

urlpatterns = [
    path("jobs", jobs.JobList.as_view()),
    path("jobs/<int:pk>", jobs.JobDetail.as_view()),
    path("jobs/<int:pk>/restore", jobs.JobRestore.as_view()),
    path("jobs/<int:pk>/uses", jobs.JobUses.as_view()),
    path("jobs/<int:pk>/look", jobs.Look.as_view()),
    path("jobs/<int:pk>/question", jobs.JobQuestion.as_view()),
    path("jobs/<int:pk>/points", jobs.JobPoints.as_view()),
    path("jobs/<int:pk>/destinations", jobs.DestinationList.as_view()),
    path("destinations/<int:pk>", recipes.DestinationDetail.as_view()),
    re_path(r"^destinations/(?P<pk>\d+)/(?P<step>undo|redo)$", recipes.DestinationStep.as_view()),
    path("destinations/<int:pk>/moments", recipes.Moments.as_view()),
    path("destinations/<int:pk>/recipe", recipes.RecipeFile.as_view()),
    path("destinations/<int:pk>/package", recipes.RecipePackage.as_view()),
    path("destinations/<int:pk>/facts", recipes.Facts.as_view()),
    path("destinations/<int:pk>/retarget", jobs.Retarget.as_view()),
    path("destinations/<int:pk>/notes", jobs.Notes.as_view()),
    path("destinations/<int:pk>/points", jobs.Points.as_view()),
    re_path(r"^destinations/(?P<pk>\d+)/swatches\.(?P<kind>csv|txt)$", jobs.PointsFile.as_view()),
    path("destinations/<int:pk>/view.png", views.View.as_view()),
    path("jobs/<int:pk>/round-trip", figures.PictureRoundTrip.as_view()),
    path("destinations/<int:pk>/intents", figures.Intents.as_view()),
    path("destinations/<int:pk>/fit", figures.FitAdvice.as_view()),
    path("destinations/<int:pk>/inks", figures.Inks.as_view()),
    path("destinations/<int:pk>/neutral", figures.Neutral.as_view()),
    path("destinations/<int:pk>/ramp", figures.HueRamp.as_view()),
    path("destinations/<int:pk>/limits", figures.Limits.as_view()),
    path("destinations/<int:pk>/against", figures.Against.as_view()),
    path("destinations/<int:pk>/readout", figures.Pointer.as_view()),
]
