#!/usr/bin/env python3
"""Django's own commands, with the core on the path."""

import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def main() -> None:
    """Run a command line."""
    for folder in (ROOT / "core", ROOT / "server"):
        if str(folder) not in sys.path:
            sys.path.insert(0, str(folder))
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()
