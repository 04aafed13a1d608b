"""MOVE IT: what may be moved, what each move does, and which move gets a wanted figure."""
