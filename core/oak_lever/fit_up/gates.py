"""Gates of a fit-up in the order of the work: what each is called, and what it asks."""

from dataclasses import dataclass

from oak_lever.design.fit import FitRecord, Gate, GateMark


@dataclass(frozen=True)
class GateSaid:
    """A gate by its key, its name, and what must be so before it is passed; `after`: gates that it asks for in whatever
    order a build goes."""

    id: Gate
    name: str
    asks: str
    after: tuple[Gate, ...] = ()


GATES: tuple[GateSaid, ...] = (
    GateSaid(
        "baseline", "Baseline accepted",
        "The truck’s figures, with what is guessed among them, are what is built to.",
    ),
    GateSaid(
        "marked", "Mounts marked", "Every bracket’s place is marked on steel, diagonals between holes measured."
    ),
    GateSaid("tacked", "Tacked", "Brackets tacked only, spacers in between the tabs, nothing welded out."),
    GateSaid(
        "measured", "Measured",
        "Enough was read that pinion, center and square are known to half their tolerance.",
    ),
    GateSaid(
        "cycled", "Cycled with springs out",
        "Full bump, full droop, both articulations by jack and stand; nothing meets.",
    ),
    GateSaid(
        "on_its_weight", "On its weight",
        "Pinion, center, square and the ride heights at four corners, all weight on the tires.",
    ),
    GateSaid("clearances", "Clearances", "At bump, droop and both articulations, against what is wanted."),
    GateSaid(
        "final_weld", "Final weld", "Away from fuel, brake lines, wiring and air bags; measured again after.",
        ("tacked", "measured", "cycled", "on_its_weight"),
    ),
    GateSaid(
        "torque", "Torqued at ride",
        "Every fastener, bushed ends with the truck at ride height. Cut sheet, Bolts, has what each takes.",
    ),
    GateSaid(
        "driven", "First drive, torqued again", "Driven, looked over, every fastener checked once more."
    ),
)  # fmt: skip


_BY_ID = {gate.id: gate for gate in GATES}


def gates_of(record: FitRecord) -> tuple[GateSaid, ...]:
    """The gates of this build, in its order."""
    own = record.gate_order
    return GATES if own is None else tuple(_BY_ID[gate] for gate in own.gates)


def left_out(record: FitRecord) -> tuple[GateSaid, ...]:
    """The gates that this build leaves out."""
    kept = {gate.id for gate in gates_of(record)}
    return tuple(gate for gate in GATES if gate.id not in kept)


def mark_of(record: FitRecord, gate: Gate) -> GateMark | None:
    """How a gate was left last; None: it stands open."""
    return next((one for one in reversed(record.gates) if one.gate == gate), None)
