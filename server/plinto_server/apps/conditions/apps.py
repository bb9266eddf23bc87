from django.apps import AppConfig


class ConditionsConfig(AppConfig):
    name = "plinto_server.apps.conditions"

    def ready(self) -> None:
        from plinto_server.apps.conditions import services
        from plinto_server.apps.profiles.models import StoredProfile
        from plinto_server.removal import leans

        leans(StoredProfile, services.uses_of_profile)
