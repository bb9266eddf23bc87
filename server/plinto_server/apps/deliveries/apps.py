from django.apps import AppConfig


class DeliveriesConfig(AppConfig):
    name = "plinto_server.apps.deliveries"
    label = "queue"
    """Of the tables: they were made under this name, and installations keep them."""

    def ready(self) -> None:
        from plinto_core.recipes import parse_recipe
        from plinto_core.recipes.report import ConversionReport
        from plinto_server.apps.deliveries.models import Run
        from plinto_server.apps.deliveries.services import deliver, described, suffix_of
        from plinto_server.apps.work.kinds import KindOfWork, register

        register(
            KindOfWork(
                key="delivery",
                report=ConversionReport,
                name="Delivery",
                model=Run,
                owner="destination__job__owner",
                related=("destination__job", "destination__condition"),
                doing=deliver,
                suffix=lambda run: suffix_of(parse_recipe(run.recipe)),
                describe=described,
            )
        )
