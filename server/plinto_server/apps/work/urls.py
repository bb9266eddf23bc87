from django.urls import path, re_path

from plinto_server.apps.work import api

urlpatterns = [
    path("queue", api.QueueList.as_view()),
    path("queue/<slug:kind>/<int:pk>/priority", api.QueuePriority.as_view()),
    path("queue/<slug:kind>/<int:pk>/file", api.QueueFile.as_view()),
    re_path(
        r"^queue/(?P<kind>[a-z]+)/(?P<pk>\d+)/(?P<part>report|settings)\.json$",
        api.QueueRecord.as_view(),
    ),
    re_path(
        r"^queue/(?P<kind>[a-z]+)/(?P<pk>\d+)/(?P<act>hold|release|retry|cancel)$",
        api.QueueAct.as_view(),
    ),
]
