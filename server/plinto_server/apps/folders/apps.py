from django.apps import AppConfig


class FoldersConfig(AppConfig):
    name = "plinto_server.apps.folders"

    def ready(self) -> None:
        from plinto_core.document.reports.report import PolicyReport
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.folders import services
        from plinto_server.apps.folders.models import FolderFile
        from plinto_server.apps.policies.models import Policy
        from plinto_server.apps.printers.models import Medium, Printer
        from plinto_server.apps.work.kinds import KindOfWork, register
        from plinto_server.removal import leans

        leans(Policy, services.uses_of_policy)
        leans(Medium, services.uses_of_medium)
        leans(Printer, services.uses_of_printer)
        leans(PrintingCondition, services.uses_of_condition)
        register(
            KindOfWork(
                key="folder",
                report=PolicyReport,
                name="Watched folder",
                model=FolderFile,
                owner="folder__owner",
                related=("folder",),
                doing=services.run_file,
                suffix=lambda row: row.out_name.rsplit(".", 1)[-1],
                describe=services.described,
            )
        )
