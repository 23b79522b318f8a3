"""Settings of the tests: a database of their own, cheap passwords, no demo sign-in unless a test asks for it."""

from __future__ import annotations

import os
import tempfile

os.environ.setdefault("THERMAXIS_VAR", tempfile.mkdtemp(prefix="thermaxis-test-"))
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

from thermaxis.config.settings import *  # noqa: F403

# A file, not memory: the live server's threads each get a connection of their own, as in service.
DATABASES["default"]["TEST"] = {"NAME": VAR / "test.sqlite3"}  # noqa: F405
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
DEMO_SIGN_IN = False
LOGGING_CONFIG = None
