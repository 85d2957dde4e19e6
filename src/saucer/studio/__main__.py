"""Django's management commands: `python -m saucer.studio COMMAND`."""

import os
import sys

from django.core.management import execute_from_command_line

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
execute_from_command_line(["saucer", *sys.argv[1:]])
