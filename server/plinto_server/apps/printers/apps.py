from django.apps import AppConfig


class PrintersConfig(AppConfig):
    name = "plinto_server.apps.printers"

    def ready(self) -> None:
        from plinto_core.printing.report import PrintReport
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.policies.models import Policy
        from plinto_server.apps.printers import printing, services
        from plinto_server.apps.printers.models import Printer, PrintJob
        from plinto_server.apps.work.kinds import KindOfWork, register
        from plinto_server.removal import leans

        leans(Policy, services.uses_of_policy)
        leans(Printer, services.uses_of_printer)
        leans(PrintingCondition, services.uses_of_condition)
        register(
            KindOfWork(
                key="print",
                report=PrintReport,
                name="Print",
                model=PrintJob,
                owner="owner",
                related=("printer",),
                doing=printing.print_job,
                suffix=lambda job: "zip",
                describe=printing.described,
                free=services.free,
                arrange=lambda job: services.dispatch(job.printer),
                ended=printing.ended,
            )
        )
