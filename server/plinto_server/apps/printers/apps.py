from django.apps import AppConfig


class PrintersConfig(AppConfig):
    name = "plinto_server.apps.printers"

    def ready(self) -> None:
        from plinto_server.apps.printers import printing, services
        from plinto_server.apps.printers.models import PrintJob
        from plinto_server.apps.queue.kinds import KindOfWork, register

        register(
            KindOfWork(
                key="print",
                name="Print",
                model=PrintJob,
                owner="owner",
                doing=printing.print_job,
                suffix=lambda job: "zip",
                describe=printing.described,
                free=services.free,
                arrange=lambda job: services.dispatch(job.printer),
                ended=printing.ended,
            )
        )
