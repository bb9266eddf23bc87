from django.urls import path

from plinto_server.apps.house import api

urlpatterns = [
    path("house-rules", api.HouseRuleList.as_view()),
    path("house-rules/<int:pk>", api.HouseRuleDetail.as_view()),
    path("house-rules/<int:pk>/use", api.HouseRuleUse.as_view()),
    path("house-rules/<int:pk>/restore", api.HouseRuleRestore.as_view()),
    path("ink-rules", api.InkRuleList.as_view()),
    path("ink-rules/<int:pk>", api.InkRuleDetail.as_view()),
    path("ink-rules/<int:pk>/restore", api.InkRuleRestore.as_view()),
]
