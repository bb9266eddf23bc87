from django.urls import path, re_path

from plinto_server.apps.policies import api

urlpatterns = [
    path("policies", api.PolicyList.as_view()),
    path("policies/<int:pk>", api.PolicyDetail.as_view()),
    path("policies/templates/<slug:kind>", api.PolicyTemplate.as_view()),
    path("documents", api.DocumentList.as_view()),
    path("documents/<int:pk>/pages/<int:page>.png", api.DocumentPage.as_view()),
    path("policy-runs", api.PolicyRunList.as_view()),
    path("policy-runs/<int:pk>", api.PolicyRunDetail.as_view()),
    path("policy-runs/<int:pk>/cancel", api.PolicyRunCancel.as_view()),
    re_path(r"^policy-runs/(?P<pk>\d+)/report\.(?P<form>json|pdf)$", api.PolicyRunReport.as_view()),
    path("policy-runs/<int:pk>/pages/<int:page>.png", api.PolicyRunPage.as_view()),
    path("policy-runs/<int:pk>/file", api.PolicyRunFile.as_view()),
]
