"""What gunicorn serves. Loaded whole before its processes fork: by itself each would need the seconds and the memory for it again."""

import os
from importlib import import_module

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "saucer.studio.site.settings")
application = get_wsgi_application()
# With all calls of the API, which the first request would load, while somebody waits.
import_module("saucer.studio.site.urls")
