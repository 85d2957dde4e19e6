"""Django's management commands: `python -m saucer.studio COMMAND`."""

import os
import sys

from django.core.management import execute_from_command_line

from saucer.studio.site.alive import give_signs

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
give_signs()
execute_from_command_line(["saucer", *sys.argv[1:]])
