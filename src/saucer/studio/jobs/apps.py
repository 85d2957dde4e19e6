from django.apps import AppConfig
from django.utils.module_loading import autodiscover_modules


class Config(AppConfig):
    name = "saucer.studio.jobs"
    label = "jobs"

    def ready(self) -> None:
        """Every app's `work.py` registers the kinds of job it has."""
        autodiscover_modules("work")
