"""JUDGE: findings, each a figure against what it should be."""
