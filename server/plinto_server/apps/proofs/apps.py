from django.apps import AppConfig


class ProofsConfig(AppConfig):
    name = "plinto_server.apps.proofs"

    def ready(self) -> None:
        from plinto_core.proofs.making import ProofReport
        from plinto_server.apps.conditions.models import PrintingCondition
        from plinto_server.apps.proofs import services
        from plinto_server.apps.proofs.models import ProofPrint
        from plinto_server.apps.work.kinds import KindOfWork, register
        from plinto_server.removal import leans

        leans(PrintingCondition, services.uses_of_condition)
        register(
            KindOfWork(
                key="proof",
                report=ProofReport,
                name="Proof print",
                model=ProofPrint,
                owner="owner",
                related=("proofer",),
                doing=services.make,
                suffix=lambda proof: services.SUFFIXES[proof.settings["format"]],
                describe=services.described,
            )
        )
