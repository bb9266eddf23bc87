from django.apps import AppConfig
from django.db.models import Q


class PoliciesConfig(AppConfig):
    name = "plinto_server.apps.policies"

    def ready(self) -> None:
        from django.conf import settings

        from plinto_core.document.pdf.bounds import widen
        from plinto_core.document.reports.report import PolicyReport
        from plinto_core.document.runs.compare import ComparisonReport
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.conditions.services import on_replacement
        from plinto_server.apps.policies import services
        from plinto_server.apps.policies.models import PolicyComparison, PolicyRun
        from plinto_server.apps.work.kinds import KindOfWork, register
        from plinto_server.removal import leans

        # In every process, so that a document is refused by none of them or by all.
        widen(settings.DOCUMENT_TIMES)
        leans(PrintingCondition, services.uses_of_condition)
        on_replacement(services.carry_policies)
        register(
            KindOfWork(
                key="policy",
                report=PolicyReport,
                name="Policy",
                model=PolicyRun,
                owner="document__owner",
                related=("document",),
                doing=services.do_run,
                suffix=lambda run: run.file_name.rsplit(".", 1)[-1],
                describe=services.described_run,
                # Every change on the page tries a policy dry; they would bury all else.
                recorded=Q(dry=False),
            )
        )
        register(
            KindOfWork(
                key="comparison",
                report=ComparisonReport,
                name="Comparison",
                model=PolicyComparison,
                owner="owner",
                doing=services.compare,
                suffix=lambda work: "json",
                describe=services.described_comparison,
            )
        )
