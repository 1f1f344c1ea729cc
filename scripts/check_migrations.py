"""Fail when a model changed without its migration. Needs no database."""

import sys
import warnings

import django
from django.core.management import call_command

warnings.simplefilter("ignore")
django.setup()
try:
    call_command("makemigrations", check=True, dry_run=True)
except SystemExit as stop:
    sys.exit(stop.code)
