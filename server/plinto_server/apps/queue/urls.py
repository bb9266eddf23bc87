from django.urls import path, re_path

from plinto_server.apps.queue import api, entries

urlpatterns = [
    path("queue", entries.QueueList.as_view()),
    path("queue/<slug:kind>/<int:pk>/priority", entries.QueuePriority.as_view()),
    path("queue/<slug:kind>/<int:pk>/file", entries.QueueFile.as_view()),
    re_path(
        r"^queue/(?P<kind>[a-z]+)/(?P<pk>\d+)/(?P<part>report|settings)\.json$",
        entries.QueueRecord.as_view(),
    ),
    re_path(
        r"^queue/(?P<kind>[a-z]+)/(?P<pk>\d+)/(?P<act>hold|release|retry|cancel)$",
        entries.QueueAct.as_view(),
    ),
    path("destinations/<int:pk>/deliveries", api.DeliveryList.as_view()),
    path("destinations/<int:pk>/check", api.DeliveryCheck.as_view()),
    path("jobs/<int:pk>/deliveries", api.JobDeliveries.as_view()),
    re_path(r"^deliveries/(?P<pk>\d+)/ticket\.(?P<kind>pdf|json)$", api.DeliveryTicket.as_view()),
    path("deliveries/<int:pk>/report", api.DeliveryReport.as_view()),
    path("deliveries/<int:pk>", api.DeliveryDetail.as_view()),
    path("deliveries/<int:pk>/cancel", api.DeliveryCancel.as_view()),
    path("deliveries/<int:pk>/again", api.DeliveryAgain.as_view()),
    path("deliveries/<int:pk>/file", api.DeliveryFile.as_view()),
]
