from django.apps import AppConfig


class BuildsConfig(AppConfig):
    name = "plinto_server.apps.builds"

    def ready(self) -> None:
        from plinto_core.characterise.report import BuildReport
        from plinto_server.apps.builds import services
        from plinto_server.apps.builds.models import ProfileBuild
        from plinto_server.apps.work.kinds import KindOfWork, register

        register(
            KindOfWork(
                key="build",
                report=BuildReport,
                name="Profile",
                model=ProfileBuild,
                owner="owner",
                doing=services.build,
                suffix=lambda work: "icc",
                describe=services.described,
            )
        )
