"""DESCRIBE: what a design is, and how it is read, refused, written and published."""
