"""The core's public door: read a design, cycle it, judge it, write it."""

from oak_lever.batch import Sensitivities, figures_of_many, mount_names, mounts_of, sensitivities
from oak_lever.cycle import MOST_STEPS, STEPS, Cycle, Sweep, cycle
from oak_lever.design.reader import DesignRefused, Fault, design_data, design_from, read_design, write_design
from oak_lever.design.start import Known, LayoutName, School, starting_design
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
    "Known",
    "LayoutName",
    "School",
    "Sensitivities",
    "Sweep",
    "cycle",
    "design_data",
    "design_from",
    "figures_of_many",
    "findings",
    "mount_names",
    "mounts_of",
    "read_design",
    "sensitivities",
    "starting_design",
    "write_design",
]
