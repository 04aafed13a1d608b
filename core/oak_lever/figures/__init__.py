"""MEASURE: what a fabricator reads, from poses and their motions."""
