from django.apps import AppConfig


class FoldersConfig(AppConfig):
    name = "plinto_server.apps.folders"

    def ready(self) -> None:
        from plinto_server.apps.folders import services
        from plinto_server.apps.folders.models import FolderFile
        from plinto_server.apps.queue.kinds import KindOfWork, register

        register(
            KindOfWork(
                key="folder",
                name="Watched folder",
                model=FolderFile,
                owner="folder__owner",
                doing=services.run_file,
                suffix=lambda row: row.out_name.rsplit(".", 1)[-1],
                describe=services.described,
            )
        )
