from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "plinto_server.apps.jobs"

    def ready(self) -> None:
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.conditions.services import on_replacement
        from plinto_server.apps.jobs import services
        from plinto_server.removal import leans

        leans(PrintingCondition, services.uses_of_condition)
        on_replacement(services.carry_destinations)
