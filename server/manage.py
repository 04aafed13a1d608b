#!/usr/bin/env python
"""Django's command line for this project."""

import os
import sys

if __name__ == "__main__":
    if sys.argv[1:2] == ["serve"]:  # the kernel takes as long to load as all the rest: begun first, on the other core
        from builds import forking

        forking.begin()
    else:  # no other command moves an axle often enough to be worth loading the compiler for
        os.environ.setdefault("OAK_LEVER_COMPILED", "0")

    from django.core.management import execute_from_command_line

    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    execute_from_command_line(sys.argv)
