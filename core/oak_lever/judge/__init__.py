"""JUDGE: what a cycle's figures mean for the use they are built for, and what to move."""
