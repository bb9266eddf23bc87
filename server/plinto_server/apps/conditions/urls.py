from django.urls import path

from plinto_server.apps.conditions.api import ConditionList

urlpatterns = [path("conditions", ConditionList.as_view())]
