from django.apps import AppConfig


class PathsConfig(AppConfig):
    name = "plinto_server.apps.paths"

    def ready(self) -> None:
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.paths import services
        from plinto_server.apps.profiles.models import StoredProfile
        from plinto_server.removal import leans

        leans(StoredProfile, services.uses_of_profile)
        leans(PrintingCondition, services.uses_of_condition)
