from tests.api.rows import filled  # noqa: F401
from tests.memo import engine  # noqa: F401
from tests.workshop import demo, relay_roadster, stranger, workshop  # noqa: F401
