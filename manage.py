#!/usr/bin/env python
"""Django's management commands; `./ladder manage` calls this with the right database."""

import os
import sys

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)
