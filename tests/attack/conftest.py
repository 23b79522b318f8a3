from tests.workshop import demo, demo_once, stranger, workshop  # noqa: F401
