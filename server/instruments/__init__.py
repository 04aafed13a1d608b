"""Instruments on the shop's bench: a line protocol over TCP, one that speaks it for a real device or a simulated bench.

Nothing here knows of builds, of the store or of the web. See docs/instruments.md.
"""
