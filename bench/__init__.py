"""Measurements and pictures, taken from the real thing."""
