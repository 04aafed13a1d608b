"""BASELINE: raw readings of a truck as it stands, to figures with their uncertainty and what to read again."""
