from importlib import import_module

from django.apps import AppConfig


class Config(AppConfig):
    name = "saucer.studio.site"
    label = "site"

    def ready(self) -> None:
        # Whatever runs, a server, a worker or a command, has every app's part in place; the check tells what is missing.
        for module in (
            "luts.rules",
            "boards.rules",
            "projects.rules",
            "projects.grade.grading",
            "projects.story.details",
            "projects.story.ordering",
            "site.running.room",
            "projects.check.misfits",
            "guests.links",
            "stress.rules",
            "hooks.rules",
            "uploads.in_place",
        ):
            import_module(f"saucer.studio.{module}")
        import_module("saucer.studio.site.wiring")
