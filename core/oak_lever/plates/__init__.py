"""Plates that brackets are made of: their outlines, holes and saddles, and where they stand."""
