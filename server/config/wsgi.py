"""The application a production server loads."""

import os

from django.core.wsgi import get_wsgi_application

from warmdraft.catalogues import check_catalogues
from warmdraft.units import UNITS, scale_of

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
check_catalogues()  # a slip in a table ends here, by its file, row and key
application = get_wsgi_application()

# The first request would otherwise wait a second for the units' library.
for dimension, choice in UNITS.items():
    for unit in choice.names:
        scale_of(unit, dimension)
