from django.apps import AppConfig


class QuestionsConfig(AppConfig):
    name = "plinto_server.apps.questions"
