from django.apps import AppConfig


class Config(AppConfig):
    name = "saucer.studio.guests"
    label = "guests"
