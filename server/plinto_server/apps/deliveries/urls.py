from django.urls import path, re_path

from plinto_server.apps.deliveries import api

urlpatterns = [
    path("destinations/<int:pk>/deliveries", api.DeliveryList.as_view()),
    path("destinations/<int:pk>/corrected", api.CorrectedDelivery.as_view()),
    path("destinations/<int:pk>/check", api.DeliveryCheck.as_view()),
    path("jobs/<int:pk>/deliveries", api.JobDeliveries.as_view()),
    re_path(r"^deliveries/(?P<pk>\d+)/ticket\.(?P<kind>pdf|json)$", api.DeliveryTicket.as_view()),
    path("deliveries/<int:pk>/report", api.DeliveryReport.as_view()),
    path("deliveries/<int:pk>", api.DeliveryDetail.as_view()),
    path("deliveries/<int:pk>/cancel", api.DeliveryCancel.as_view()),
    path("deliveries/<int:pk>/again", api.DeliveryAgain.as_view()),
    path("deliveries/<int:pk>/file", api.DeliveryFile.as_view()),
]
