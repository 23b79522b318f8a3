"""Serve the demo on the loopback address: whoever comes from this machine is signed in as its user."""

from __future__ import annotations

import os
import sys

from thermaxis.config.server import serve


def main() -> int:
    """Print the address and become the server."""
    os.environ["THERMAXIS_DEMO_SIGN_IN"] = "1"
    return serve("Thermaxis with the demo data", "make demo")


if __name__ == "__main__":
    sys.exit(main())
