from tests.workshop import demo, stranger, workshop  # noqa: F401
