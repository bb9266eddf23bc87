from django.urls import path

from plinto_server.apps.conditions import api

urlpatterns = [
    path("conditions", api.ConditionList.as_view()),
    path("conditions/import", api.ConditionImport.as_view()),
    path("conditions/<int:pk>", api.ConditionDetail.as_view()),
    path("conditions/<int:pk>/restore", api.ConditionRestore.as_view()),
    path("conditions/<int:pk>/copy", api.ConditionCopy.as_view()),
    path("conditions/<int:pk>/uses", api.ConditionUses.as_view()),
    path("conditions/<int:pk>/profile", api.ConditionProfile.as_view()),
    path("conditions/<int:pk>/inks", api.ConditionInks.as_view()),
    path("conditions/<int:pk>/difference/<int:profile>", api.ConditionDifference.as_view()),
    path("conditions/<int:pk>/file", api.ConditionFile.as_view()),
    path("profiles/<int:pk>/proposal", api.ProfileProposal.as_view()),
]
