"""Weighing up: what the holes that there are would do, and how exact a hole must be."""
