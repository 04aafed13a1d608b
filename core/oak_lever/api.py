"""The core's public door: read a design, cycle it, judge it, write it."""

from oak_lever.cycle import MOST_STEPS, STEPS, Cycle, Sweep, cycle
from oak_lever.design.reader import DesignRefused, Fault, design_data, design_from, read_design, write_design
from oak_lever.design.types import Design
from oak_lever.judge.findings import Finding, findings

__all__ = [
    "MOST_STEPS",
    "STEPS",
    "Cycle",
    "Design",
    "DesignRefused",
    "Fault",
    "Finding",
    "Sweep",
    "cycle",
    "design_data",
    "design_from",
    "findings",
    "read_design",
    "write_design",
]
