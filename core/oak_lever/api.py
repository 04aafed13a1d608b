"""The core's public door: read a design, cycle it, judge it, move it, write it."""

from oak_lever.batch import Sensitivities, figures_of_many, mount_names, mounts_of, sensitivities
from oak_lever.cycle import MOST_STEPS, STEPS, Cycle, Sweep, cycle
from oak_lever.design.reader import DesignRefused, Fault, design_data, design_from, read_design, write_design
from oak_lever.design.start import Known, LayoutName, starting_design
from oak_lever.design.types import Design, School, Use
from oak_lever.judge.findings import Finding, findings
from oak_lever.judge.house import FIGURES, SCHOOLS, USES
from oak_lever.move.changes import Change, changes
from oak_lever.move.converge import NoCrossing, holes
from oak_lever.move.coordinates import moved, placed
from oak_lever.move.effects import Cure, Effect, cures, effects
from oak_lever.move.pull import Pulled, Wanted, pull
from oak_lever.move.settle import Settled, settle

__all__ = [
    "FIGURES",
    "MOST_STEPS",
    "SCHOOLS",
    "STEPS",
    "USES",
    "Change",
    "Cure",
    "Cycle",
    "Design",
    "DesignRefused",
    "Effect",
    "Fault",
    "Finding",
    "Known",
    "LayoutName",
    "NoCrossing",
    "Pulled",
    "School",
    "Sensitivities",
    "Settled",
    "Sweep",
    "Use",
    "Wanted",
    "changes",
    "cures",
    "cycle",
    "design_data",
    "design_from",
    "effects",
    "figures_of_many",
    "findings",
    "holes",
    "mount_names",
    "mounts_of",
    "moved",
    "placed",
    "pull",
    "read_design",
    "sensitivities",
    "settle",
    "starting_design",
    "write_design",
]
