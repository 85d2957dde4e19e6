from typing import Any

from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_out


class Config(AppConfig):
    name = "saucer.studio.pictures"
    label = "pictures"

    def ready(self) -> None:
        user_logged_out.connect(_signed_out, dispatch_uid="saucer.pictures")


def _signed_out(user: Any, **told: Any) -> None:
    from saucer.studio.pictures.rules import let_go  # models can be imported only now

    if user is not None:
        let_go(user)
