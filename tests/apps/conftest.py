from tests.memo import engine  # noqa: F401
from tests.workshop import demo, stranger, workshop  # noqa: F401
