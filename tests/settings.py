"""Settings of the tests: a database of their own, cheap passwords, no demo sign-in unless a test asks for it."""

from __future__ import annotations

import os
import tempfile
from typing import Any

os.environ.setdefault("THERMAXIS_VAR", tempfile.mkdtemp(prefix="thermaxis-test-"))
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")

from thermaxis.config.settings import *  # noqa: F403

# What a power cut would lose is no matter here, and a disk shared with others may take seconds over one flush.
options: dict[str, Any] = DATABASES["default"]["OPTIONS"]  # type: ignore[assignment]  # noqa: F405
options["timeout"] = 120
options["init_command"] = options["init_command"].replace("synchronous=FULL", "synchronous=OFF")
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
DEMO_SIGN_IN = False
# What the test client calls the server.
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "testserver"]
LOGGING_CONFIG = None
