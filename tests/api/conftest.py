from tests.api.rows import filled  # noqa: F401
from tests.workshop import demo, demo_once, relay_roadster, stranger, workshop  # noqa: F401
