from django.urls import path

from plinto_server.apps.profiles import api, examining

urlpatterns = [
    path("profiles", api.ProfileList.as_view()),
    path("profiles/receive", api.ProfileReceipt.as_view()),
    path("profiles/<int:pk>", api.ProfileDetail.as_view()),
    path("profiles/<int:pk>/restore", api.ProfileRestore.as_view()),
    path("profiles/<int:pk>/uses", api.ProfileUses.as_view()),
    path("profiles/<int:pk>/file", api.ProfileFile.as_view()),
    path("profiles/<int:pk>/examination", examining.ProfileExamination.as_view()),
    path("profiles/<int:pk>/examination.pdf", examining.ProfilePages.as_view()),
    path("profiles/<int:pk>/neutrals", examining.ProfileNeutrals.as_view()),
    path("profiles/<int:pk>/tags", examining.ProfileTags.as_view()),
    path("profiles/<int:pk>/tags/<str:tag>", examining.ProfileTag.as_view()),
    path("profiles/<int:pk>/copy", examining.ProfileCopy.as_view()),
    path("tables", api.ColourTableList.as_view()),
    path("tables/<int:pk>/file", api.ColourTableFile.as_view()),
]
