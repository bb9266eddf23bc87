from django.urls import path

from plinto_server.apps.queue import api

urlpatterns = [
    path("destinations/<int:pk>/deliveries", api.DeliveryList.as_view()),
    path("deliveries/<int:pk>", api.DeliveryDetail.as_view()),
    path("deliveries/<int:pk>/cancel", api.DeliveryCancel.as_view()),
    path("deliveries/<int:pk>/again", api.DeliveryAgain.as_view()),
    path("deliveries/<int:pk>/file", api.DeliveryFile.as_view()),
]
