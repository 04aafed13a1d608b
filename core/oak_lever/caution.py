"""The caution that stands wherever dimensions, loads or passed gates are handed out: one text for all of them."""

BRIEF = (
    "An estimate from the figures entered, not an approval.",
    "Have the design and the welds checked by a qualified engineer or inspector.",
    "Vehicle modifications fall under local law.",
)
"""What has room at the foot of a screen or a listing."""

WHOLE = (
    *BRIEF,
    "Support the truck on rated stands; springs, air bags and gas shocks are stored energy.",
    "Cut and weld away from fuel, brake lines, wiring and air bags.",
    "Never work under a truck held by a jack.",
)
"""What goes to the shop with a drawing."""
