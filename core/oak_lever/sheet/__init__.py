"""DRAW: what goes to the shop on paper."""
