"""Builds: one vehicle each, with its designs and every revision of them."""
