from django.apps import AppConfig


class QueueConfig(AppConfig):
    name = "plinto_server.apps.queue"

    def ready(self) -> None:
        from plinto_core.recipes import parse_recipe
        from plinto_server.apps.queue.kinds import KindOfWork, register
        from plinto_server.apps.queue.models import Run
        from plinto_server.apps.queue.services import deliver, described, suffix_of

        register(
            KindOfWork(
                key="delivery",
                name="Delivery",
                model=Run,
                owner="destination__job__owner",
                related=("destination__job", "destination__condition"),
                doing=deliver,
                suffix=lambda run: suffix_of(parse_recipe(run.recipe)),
                describe=described,
            )
        )
