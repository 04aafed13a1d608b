"""The core's public door: read designs and trucks, cycle, judge, move, draw, write."""

from oak_lever.baseline.agree import agreed
from oak_lever.baseline.figures import Baseline, baseline
from oak_lever.baseline.words import BaselineFigure, Told, Unsettled, told
from oak_lever.batch import figures_of_many, mount_names, mounts_of
from oak_lever.caution import BRIEF, WHOLE
from oak_lever.clearance.clearances import GRID, MOST_GRID, Clearances, Gap, clearances, gaps_here
from oak_lever.clearance.imports import FileUnit, Imported, from_dxf, from_stl
from oak_lever.clearance.standing import (
    BRACKET_MM,
    BareTube,
    Envelope,
    Station,
    Under,
    envelopes,
    stations,
    tubes,
    under,
    with_station,
)
from oak_lever.clearance.travel import UP_SHARES, Budget, budget
from oak_lever.clearance.zones import unknown_mounts
from oak_lever.cut_sheet.archive import shop_archive, shop_archive_going
from oak_lever.cut_sheet.at_hand import TubesAtHand
from oak_lever.cut_sheet.bars import Bend, CutBar
from oak_lever.cut_sheet.catalog import ENDS, STEELS
from oak_lever.cut_sheet.cut import Cut, cut
from oak_lever.cut_sheet.engineer import engineers_sheet
from oak_lever.cut_sheet.files import files_of
from oak_lever.cut_sheet.lists import Item, parts_list
from oak_lever.cut_sheet.mark_out import BracketMarks, MarkOut, mark_out
from oak_lever.cut_sheet.nest import Nest, read_stock
from oak_lever.cut_sheet.new_hole import EDGE_BOLTS, HoleAt, NewHole, new_holes
from oak_lever.cut_sheet.plate_dxf import sheet_dxf
from oak_lever.cut_sheet.said import cut_said
from oak_lever.cut_sheet.since import cut_since
from oak_lever.cycle import MOST_STEPS, STEPS, Cycle, Look, Sweep, cycle, look
from oak_lever.design.added import Addition, added, additions
from oak_lever.design.cutting import Stock
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.fit import Complaint, FitLog, FitPose, FitRecord
from oak_lever.design.joint_catalog import JOINTS
from oak_lever.design.parts import Kind, Parts, parts_of, table
from oak_lever.design.reader import design_data, design_from, read_design, write_design
from oak_lever.design.room import Solid
from oak_lever.design.start import Known, LayoutName
from oak_lever.design.types import Design, School, Use
from oak_lever.design.values import Band, Bands, Point
from oak_lever.figures.corner_columns import bar_rate
from oak_lever.figures.curves import Asked, curves_of
from oak_lever.figures.instead import Instead, instead
from oak_lever.figures.links import LinkFigures, Separation, link_figures, separation
from oak_lever.figures.register import BY_ID, COLUMNS, FIGURES, USES, Column, Figure
from oak_lever.figures.sit import (
    RATES_N_MM,
    SEATS_MM,
    TURN_MM,
    Filled,
    Inflated,
    Load,
    Offered,
    Sits,
    Sitting,
    SliderStop,
    Spaced,
    Turned,
    spaced,
)
from oak_lever.fit_up.as_built import as_built
from oak_lever.fit_up.corrected import Correction, Corrections, corrections
from oak_lever.fit_up.fitted import Fitted, fitted
from oak_lever.fit_up.gates import GATES, GateSaid
from oak_lever.fit_up.log_file import Brought, bring_fit, write_fit
from oak_lever.fit_up.next_reading import NextReading, next_reading
from oak_lever.fit_up.on_weight import OnWeight, on_weight, strut_columns
from oak_lever.fit_up.plan import Plan, plan
from oak_lever.fit_up.readings import fit_record_from, log_of, read_fit
from oak_lever.fit_up.said import fit_said
from oak_lever.fit_up.slips import slips
from oak_lever.fit_up.welding import WeldStep, weld_order
from oak_lever.judge.check import Fact
from oak_lever.judge.complaints import Explained, explained
from oak_lever.judge.findings import Finding, findings, findings_apart, findings_on, only_read
from oak_lever.judge.guesses import slack
from oak_lever.judge.house import SCHOOLS
from oak_lever.judge.joint_table import JointRow, Softer, joint_rows
from oak_lever.judge.judged import judge
from oak_lever.judge.ladder import Rung, Rungs, ladder
from oak_lever.judge.map import Map, gap_map, joint_left, whole_map
from oak_lever.judge.places import Place
from oak_lever.judge.ranges import Slack
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.motion.carried import carried
from oak_lever.motion.mechanism import Mechanism
from oak_lever.move.aim import Aim, TurnBy, aim, turn_by
from oak_lever.move.bounds import CURE_WITHIN_MM, PULL_WITHIN_MM
from oak_lever.move.changes import Change, changes
from oak_lever.move.clearing import clearing
from oak_lever.move.compare import Variant, variants
from oak_lever.move.converge import Hole, NoCrossing, holes
from oak_lever.move.coordinates import placed
from oak_lever.move.copied import Brackets, Copied, Onto, onto_housing
from oak_lever.move.corner_moves import CornerPulled, Want, corner_slopes, pull_corner
from oak_lever.move.cures import cures
from oak_lever.move.effects import Effect, all_effects, effects
from oak_lever.move.hand import HandCheck, hand_check
from oak_lever.move.layout import LinkKind, Locator, Side, with_kind, with_link, with_locator, without_link
from oak_lever.move.offers import Cure, Worsened
from oak_lever.move.placing import shock_places
from oak_lever.move.pull import Pulled, Wanted, pull
from oak_lever.move.schools import school_says
from oak_lever.move.settle import Settled, settle
from oak_lever.move.since import Moved, since
from oak_lever.move.start import starting_design
from oak_lever.move.turned import Ways
from oak_lever.move.zones import Ranked, ranked
from oak_lever.plates.brackets import CutBracket, Plate
from oak_lever.sheet.dxf import room_dxf
from oak_lever.sheet.fit_sheet import fit_sheet
from oak_lever.sheet.links import Titles, links_sheet
from oak_lever.sheet.page import PAPERS, Paper
from oak_lever.sheet.rows import csv_of
from oak_lever.sheet.writers import pdf, svg
from oak_lever.strength.bolts import FRICTION, GRADES, PRELOAD, Grade, JointBolt, joint_bolts
from oak_lever.strength.bracketed import bracket_loads, loaded_parts
from oak_lever.strength.judged import Factored, Holds, PartLoads, case_words, part_loads, tube_that_holds
from oak_lever.strength.loads import Carried, Push, Reckoned, reckoned
from oak_lever.strength.on_frame import Landing, frame_prompts, landings
from oak_lever.strength.said import loads_said
from oak_lever.tolerances import LARGEST_MM
from oak_lever.truck.figures import TRUCK_FIGURES, TruckFigure, guessed_figures
from oak_lever.truck.jobs import STEPS as JOB_STEPS
from oak_lever.truck.jobs import typical_jobs
from oak_lever.truck.reader import read_truck, truck_data, truck_from, write_truck
from oak_lever.truck.resolve import (
    SHARED,
    Difference,
    Shared,
    changed_figures,
    differences,
    first_truck,
    overlays,
    resolved,
    split,
    with_figures,
)
from oak_lever.truck.restood import Meant, stood_on, with_radius
from oak_lever.truck.shared import taken_keep_outs
from oak_lever.truck.types import Job, Source, Truck
from oak_lever.units import Units
from oak_lever.weigh_up.beside import MOST_BESIDE, Beside, Loaded, beside
from oak_lever.weigh_up.excluded import Excluded
from oak_lever.weigh_up.finder import Demands, Found, Search, find
from oak_lever.weigh_up.held_against import Against, held_against
from oak_lever.weigh_up.next_hole import HoleToTry, holes_to_try
from oak_lever.weigh_up.outcomes import Outcomes, outcomes
from oak_lever.weigh_up.racks import (
    Combination,
    HoleMap,
    Nearer,
    Site,
    combinations_of,
    hole_map,
    hole_maps,
    one_change,
)
from oak_lever.weigh_up.said import holes_said, search_said, tolerance_said
from oak_lever.weigh_up.tolerance import ERROR_MM, Tolerance, tolerance

__all__ = [
    "BRACKET_MM",
    "BRIEF",
    "BY_ID",
    "COLUMNS",
    "CURE_WITHIN_MM",
    "EDGE_BOLTS",
    "ENDS",
    "ERROR_MM",
    "FIGURES",
    "FRICTION",
    "GATES",
    "GRADES",
    "GRID",
    "JOB_STEPS",
    "JOINTS",
    "LARGEST_MM",
    "MOST_BESIDE",
    "MOST_GRID",
    "MOST_STEPS",
    "PAPERS",
    "PRELOAD",
    "PULL_WITHIN_MM",
    "RATES_N_MM",
    "SCHOOLS",
    "SEATS_MM",
    "SHARED",
    "STEELS",
    "STEPS",
    "TRUCK_FIGURES",
    "TURN_MM",
    "UP_SHARES",
    "USES",
    "WHOLE",
    "Addition",
    "Against",
    "Aim",
    "Asked",
    "Band",
    "Bands",
    "BareTube",
    "Baseline",
    "BaselineFigure",
    "Bend",
    "Beside",
    "BracketMarks",
    "Brackets",
    "Brought",
    "Budget",
    "Carried",
    "Change",
    "Clearances",
    "Column",
    "Combination",
    "Complaint",
    "Copied",
    "CornerPulled",
    "Correction",
    "Corrections",
    "Cure",
    "Cut",
    "CutBar",
    "CutBracket",
    "Cycle",
    "Demands",
    "Design",
    "Difference",
    "Effect",
    "Envelope",
    "Excluded",
    "Explained",
    "Fact",
    "Factored",
    "Fault",
    "Figure",
    "FileUnit",
    "Filled",
    "Finding",
    "FitLog",
    "FitPose",
    "FitRecord",
    "Fitted",
    "Found",
    "Gap",
    "GateSaid",
    "Grade",
    "HandCheck",
    "Holds",
    "Hole",
    "HoleAt",
    "HoleMap",
    "HoleToTry",
    "Imported",
    "Inflated",
    "Instead",
    "Item",
    "Job",
    "JointBolt",
    "JointRow",
    "Kind",
    "Known",
    "Landing",
    "LayoutName",
    "LinkFigures",
    "LinkKind",
    "Load",
    "Loaded",
    "Locator",
    "Look",
    "Map",
    "MarkOut",
    "Meant",
    "Mechanism",
    "Moved",
    "Nearer",
    "Nest",
    "NewHole",
    "NextReading",
    "NoCrossing",
    "Offered",
    "OnWeight",
    "Onto",
    "Outcomes",
    "Paper",
    "PartLoads",
    "Parts",
    "Place",
    "Plan",
    "Plate",
    "Point",
    "Pulled",
    "Push",
    "Ranked",
    "Reckoned",
    "Refused",
    "Rung",
    "Rungs",
    "School",
    "Search",
    "Separation",
    "Settled",
    "Shared",
    "Side",
    "Site",
    "Sits",
    "Sitting",
    "Slack",
    "SliderStop",
    "Softer",
    "Solid",
    "Source",
    "Spaced",
    "Station",
    "Stock",
    "Sweep",
    "Titles",
    "Told",
    "Tolerance",
    "Truck",
    "TruckFigure",
    "TubesAtHand",
    "TurnBy",
    "Turned",
    "Under",
    "Units",
    "Unsettled",
    "Use",
    "Variant",
    "Want",
    "Wanted",
    "Ways",
    "WeldStep",
    "Worsened",
    "added",
    "additions",
    "agreed",
    "aim",
    "all_effects",
    "as_built",
    "bar_rate",
    "baseline",
    "beside",
    "bracket_loads",
    "bring_fit",
    "budget",
    "carried",
    "case_words",
    "changed_figures",
    "changes",
    "clearances",
    "clearing",
    "combinations_of",
    "corner_slopes",
    "corrections",
    "csv_of",
    "cures",
    "curves_of",
    "cut",
    "cut_said",
    "cut_since",
    "cycle",
    "design_data",
    "design_from",
    "differences",
    "effects",
    "engineers_sheet",
    "envelopes",
    "explained",
    "figures_of_many",
    "files_of",
    "find",
    "findings",
    "findings_apart",
    "findings_on",
    "first_truck",
    "fit_record_from",
    "fit_said",
    "fit_sheet",
    "fitted",
    "frame_prompts",
    "from_dxf",
    "from_stl",
    "gap_map",
    "gaps_here",
    "guessed_figures",
    "hand_check",
    "held_against",
    "hole_map",
    "hole_maps",
    "holes",
    "holes_said",
    "holes_to_try",
    "instead",
    "joint_bolts",
    "joint_left",
    "joint_rows",
    "judge",
    "ladder",
    "landings",
    "link_figures",
    "links_sheet",
    "loaded_parts",
    "loads_said",
    "log_of",
    "look",
    "mark_out",
    "mount_names",
    "mounts_of",
    "new_holes",
    "next_reading",
    "on_weight",
    "one_change",
    "only_read",
    "onto_housing",
    "outcomes",
    "overlays",
    "part_loads",
    "parts_list",
    "parts_of",
    "pdf",
    "placed",
    "plan",
    "pull",
    "pull_corner",
    "ranked",
    "read_design",
    "read_fit",
    "read_stock",
    "read_truck",
    "reckoned",
    "resolved",
    "room_dxf",
    "school_says",
    "search_said",
    "separation",
    "settle",
    "sheet_dxf",
    "shock_places",
    "shop_archive",
    "shop_archive_going",
    "since",
    "slack",
    "slips",
    "spaced",
    "split",
    "starting_design",
    "stations",
    "stood_on",
    "strut_columns",
    "svg",
    "table",
    "taken_keep_outs",
    "told",
    "tolerance",
    "tolerance_said",
    "truck_data",
    "truck_from",
    "tube_that_holds",
    "tubes",
    "turn_by",
    "typical_jobs",
    "under",
    "unknown_mounts",
    "variants",
    "verdicts_on",
    "weld_order",
    "whole_map",
    "with_figures",
    "with_kind",
    "with_link",
    "with_locator",
    "with_radius",
    "with_station",
    "without_link",
    "write_design",
    "write_fit",
    "write_truck",
]
