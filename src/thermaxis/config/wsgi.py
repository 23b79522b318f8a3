"""WSGI entry point; the engine is compiled before the first request, so that no one waits for it."""

from __future__ import annotations

import logging
import os
import time

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thermaxis.config.settings")
application = get_wsgi_application()


def _warm_up() -> None:
    from thermaxis.core.physics.warm_up import warm_up

    start = time.perf_counter()
    warm_up()
    logging.getLogger("thermaxis").info("engine warm after %.1f s", time.perf_counter() - start)


_warm_up()
