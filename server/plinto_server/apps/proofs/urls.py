from django.urls import path, re_path

from plinto_server.apps.proofs import api, readings_api, tolerances_api

urlpatterns = [
    path("destinations/<int:pk>/proofs", api.JobProofs.as_view()),
    path("policy-runs/<int:pk>/proofs", api.PageProofs.as_view()),
    path("proofs", api.ProofList.as_view()),
    path("proofs/<int:pk>", api.ProofDetail.as_view()),
    path("proofs/<int:pk>/restore", api.ProofRestore.as_view()),
    path("proofs/<int:pk>/cancel", api.ProofCancel.as_view()),
    path("proofs/<int:pk>/file", api.ProofFile.as_view()),
    re_path(r"^proofs/(?P<pk>\d+)/ticket\.(?P<kind>pdf|json)$", api.ProofTicket.as_view()),
    path("proofs/<int:pk>/readings", readings_api.ProofReadings.as_view()),
    path("proofs/<int:pk>/readings/file", readings_api.ProofReadingFile.as_view()),
    path("proof-readings/<int:pk>", readings_api.ReadingDetail.as_view()),
    path("proof-readings/<int:pk>/restore", readings_api.ReadingRestore.as_view()),
    path("proof-readings/<int:pk>/judge", readings_api.ReadingJudge.as_view()),
    re_path(
        r"^proof-readings/(?P<pk>\d+)/report\.(?P<kind>pdf|txt)$",
        readings_api.ReadingReport.as_view(),
    ),
    path("proof-tolerances", tolerances_api.ToleranceList.as_view()),
    path("proof-tolerances/starting", tolerances_api.StartingTolerances.as_view()),
    path("proof-tolerances/<int:pk>", tolerances_api.ToleranceDetail.as_view()),
    path("proof-tolerances/<int:pk>/restore", tolerances_api.ToleranceRestore.as_view()),
]
