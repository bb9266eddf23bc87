from django.urls import path, re_path

from plinto_server.apps.questions import api

urlpatterns = [
    path("questions", api.QuestionList.as_view()),
    re_path(r"^questions/(?P<key>[a-z]+)$", api.QuestionAnswer.as_view()),
    re_path(r"^questions/(?P<key>[a-z]+)\.pdf$", api.QuestionPages.as_view()),
]
