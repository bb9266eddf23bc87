from django.urls import path

from plinto_server.apps.printers import api

urlpatterns = [
    path("printers", api.PrinterList.as_view()),
    path("printers/<int:pk>", api.PrinterDetail.as_view()),
    path("printers/<int:pk>/restore", api.PrinterRestore.as_view()),
    path("printers/<int:pk>/uses", api.PrinterUses.as_view()),
    path("printers/<int:pk>/media", api.MediumList.as_view()),
    path("media/judge", api.MediumJudge.as_view()),
    path("media/<int:pk>", api.MediumDetail.as_view()),
    path("media/<int:pk>/restore", api.MediumRestore.as_view()),
    path("media/<int:pk>/uses", api.MediumUses.as_view()),
    path("prints", api.PrintList.as_view()),
    path("prints/<int:pk>/<path:name>", api.PrintSheet.as_view()),
]
