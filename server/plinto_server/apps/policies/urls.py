from django.urls import path, re_path

from plinto_server.apps.policies.api import documents, policies, runs

urlpatterns = [
    path("policies", policies.PolicyList.as_view()),
    path("policies/<int:pk>", policies.PolicyDetail.as_view()),
    path("policies/<int:pk>/restore", policies.PolicyRestore.as_view()),
    path("policies/<int:pk>/uses", policies.PolicyUses.as_view()),
    path("policies/<int:pk>/versions", policies.PolicyVersions.as_view()),
    path("policies/checks", policies.CheckList.as_view()),
    path("policies/compare", policies.PolicyCompare.as_view()),
    path("policy-comparisons", policies.ComparisonList.as_view()),
    path("policy-comparisons/<int:pk>", policies.ComparisonDetail.as_view()),
    path("policies/templates/<slug:kind>", policies.PolicyTemplate.as_view()),
    path("documents", documents.DocumentList.as_view()),
    path("documents/<int:pk>/pages/<int:page>.png", documents.DocumentPage.as_view()),
    path("policy-runs", runs.PolicyRunList.as_view()),
    path("policy-runs/<int:pk>", runs.PolicyRunDetail.as_view()),
    path("policy-runs/<int:pk>/cancel", runs.PolicyRunCancel.as_view()),
    re_path(
        r"^policy-runs/(?P<pk>\d+)/report\.(?P<form>json|pdf)$", runs.PolicyRunReport.as_view()
    ),
    path("policy-runs/<int:pk>/pages/<int:page>.png", runs.PolicyRunPage.as_view()),
    path("policy-runs/<int:pk>/pages/<int:page>/plates", runs.PolicyRunPlates.as_view()),
    path("policy-runs/<int:pk>/pages/<int:page>/plates.png", runs.PolicyRunPlate.as_view()),
    path("policy-runs/<int:pk>/pages/<int:page>/tac.png", runs.PolicyRunTac.as_view()),
    path("policy-runs/<int:pk>/notes.pdf", runs.PolicyRunNotes.as_view()),
    path("policy-runs/<int:pk>/file", runs.PolicyRunFile.as_view()),
]
