from django.urls import path

from plinto_server.apps.profiles import aims_api, api, examining

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
    path("aims", aims_api.AimList.as_view()),
    path("aims/file", aims_api.AimReceipt.as_view()),
    path("aims/<int:pk>", aims_api.AimDetail.as_view()),
    path("aims/<int:pk>/copy", aims_api.AimCopy.as_view()),
    path("aims/<int:pk>/restore", aims_api.AimRestore.as_view()),
    path("aims/<int:pk>/file", aims_api.AimFile.as_view()),
    path("tables", api.ColourTableList.as_view()),
    path("tables/<int:pk>/file", api.ColourTableFile.as_view()),
]
