"""Imported, the motion kernel is compiled and loaded: for a process that others are forked from."""

from oak_lever.warm import warm

warm()
