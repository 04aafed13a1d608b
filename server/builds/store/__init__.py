"""The store as a file: copied while in use, checked, put back, mended, and written out as open files."""
