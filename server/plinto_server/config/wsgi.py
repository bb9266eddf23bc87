"""WSGI entry, with the built web application served beside the API."""

import os

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "plinto_server.config.settings")

from django.conf import settings
from django.core.wsgi import get_wsgi_application
from whitenoise import WhiteNoise

application = get_wsgi_application()
if settings.WEB_DIST.is_dir():
    application = WhiteNoise(application, root=str(settings.WEB_DIST), index_file=False)
