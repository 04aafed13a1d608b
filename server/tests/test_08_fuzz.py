"""Any question that the contract allows, and many that it does not: every answer is one that the contract names."""

import json
import os
import random
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis import Case
from speaking import TENDER, Caller

from builds.actions import create_build, import_design
from builds.models import Build, Design
from config.wsgi import application

CASES = int(os.environ.get("OAK_LEVER_FUZZ", "2"))
"""How many questions each address is asked; `make soak` asks far more."""

schema = schemathesis.openapi.from_wsgi("/api/openapi.json", application)
DOCUMENT = json.loads(TENDER)
VALUES = st.one_of(
    st.none(), st.booleans(), st.integers(), st.floats(), st.text(max_size=20), st.builds(list), st.builds(dict),
    st.sampled_from([1e308, -1e308, 1e-308, 0, -0.0, 2**63, "\ud800", "NaN"]),
)  # fmt: skip


def places(data: Any, at: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The paths of all values in a document."""
    inner = data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ()
    return [at, *(place for key, value in inner for place in places(value, (*at, key)))]


PLACES = [place for place in places(DOCUMENT) if place]


ASKED = settings(
    max_examples=CASES, deadline=None, phases=[Phase.generate], derandomize=True,
    suppress_health_check=list(HealthCheck),
)  # fmt: skip
EXCLUDED: list[Any] = [
    schemathesis.checks.CHECKS.get_one(name)  # what the core accepts of a document is more than a schema can say
    for name in ("positive_data_acceptance", "negative_data_rejection")
]
NO_FAILURE: list[Any] = [schemathesis.checks.CHECKS.get_one("not_a_server_error")]


@st.composite
def documents(draw: st.DrawFn) -> Any:
    """The demo's design with some of its values replaced by others, or taken out."""
    made = json.loads(TENDER)
    for place in draw(st.lists(st.sampled_from(PLACES), min_size=1, max_size=3, unique=True)):
        holder = made
        try:
            for step in place[:-1]:
                holder = holder[step]
            if draw(st.integers(0, 3)) == 0:
                del holder[place[-1]]
            else:
                holder[place[-1]] = draw(VALUES)
        except (KeyError, IndexError, TypeError):
            continue  # what it stood in has been replaced meanwhile
    return made


@pytest.fixture
def kept(db: None) -> None:
    import_design(create_build("Fell tender").pk, TENDER)


@schema.hook("map_case")
def of_what_is_there(context: Any, case: Case[Any]) -> Case[Any]:
    """Two questions of three are of a build or a design that is there: by their text, so that a run can be repeated."""
    chance = random.Random(repr((case.path_parameters, case.query, case.body)))
    there = {"build_id": Build, "design_id": Design, "number": None}
    for name in set(case.path_parameters or ()) & set(there):
        if chance.random() < 0.67:
            kind = there[name]
            last = kind.objects.last() if kind else None
            case.path_parameters[name] = 1 if kind is None else last.pk if last else 1
    return case


@pytest.mark.usefixtures("kept")
@schema.parametrize()
@ASKED
def test_every_answer_is_in_the_contract(case: Case[Any]) -> None:
    answer = case.call()
    # advice on a design that nobody would build may come to its time limit, and long work has few places: those too
    # are answers
    said = any(words in answer.content for words in (b"was stopped", b"has its hands full"))
    busy = answer.status_code == 503 and said
    assert answer.status_code < 500 or busy, (case.method, case.path, case.body)
    case.validate_response(answer, excluded_checks=[*EXCLUDED, *(NO_FAILURE if busy else [])])


QUESTIONS: dict[str, dict[str, Any]] = {
    "/api/cycle": {"travel": 20.0, "articulation": 3.0},
    "/api/look": {"travel": 20.0, "articulation": 3.0},
    "/api/clear": {},
    "/api/gaps": {"travel": 20.0, "articulation": 3.0},
    "/api/places": {"mount": "lower-left.frame", "increment": 5.0},
    "/api/room": {},
    "/api/stations": {"moved": [0.0, 25.0]},
    "/api/copy": {
        "brackets": "kept",
        "units": "mm",
        "onto": {
            "tire_diameter": 900.0,
            "tire_radius_loaded": 430.0,
            "tire_width": 300.0,
            "track": 1700.0,
            "tube_diameter": 95.0,
            "pinion_ahead": 320.0,
            "pinion_above": 30.0,
            "pinion_angle": 5.0,
        },
    },
    "/api/corners": {"loads": [{"name": "Loaded", "mass": 3000.0, "front_share": 0.5}]},
    "/api/shocks/places": {"shock": "coilover-left", "increment": 6.0},
    "/api/runs/pull": {"wanted": [{"check": "stroke_bump coilover-left", "value": 20.0}]},
    "/api/runs/effects": {"check": "stroke_bump coilover-left", "increment": 6.0},
    "/api/shaft/turn": {"value": 6.0},
    "/api/map": {"gaps": False},
    "/api/schools": {"units": "mm"},
    "/api/joints": {},
    "/api/hand": {},
    "/api/complaints": {},
    "/api/layout": {"increment": 1.0, "change": {"do": "locator", "kind": "watts_on_axle"}},
    "/api/effects": {"increment": 1.0},
    "/api/cures": {"finding": "pinion_change", "increment": 1.0, "units": "in16"},
    "/api/slack": {"finding": "pinion_change", "inputs": None},
    "/api/school": {"units": "mm"},
    "/api/pull": {"wanted": [{"figure": "anti_squat", "travel": 0.0, "articulation": 0.0, "value": 80.0}]},
    "/api/converge": {"kind": "lower", "point": [500.0, 500.0], "station": 900.0},
    "/api/designs/{design_id}/revisions": {"base": 1, "truck": 1},
}


@pytest.mark.parametrize("path", QUESTIONS)
@ASKED
@given(document=documents())
def test_a_damaged_document_is_answered_or_refused_by_its_path(
    kept: None, call: Caller, path: str, document: Any
) -> None:
    last = Design.objects.latest("pk").pk
    status, said = call("POST", path, {**QUESTIONS[path], "document": document}, design_id=last)
    assert status < 500
    if status == 422:
        assert all({"path", "message"} <= set(fault) for fault in said["faults"])
        assert said["faults"]
    if status == 201:  # what was accepted can be read back
        assert call("GET", "/api/designs/{design_id}", design_id=last)[1]["document"] == said["document"]


@pytest.mark.parametrize("path", ["/api/builds/{build_id}/designs", "/api/builds/{build_id}/truck/revisions"])
@ASKED
@given(document=documents())
def test_a_damaged_file_is_taken_in_or_refused(kept: None, call: Caller, path: str, document: Any) -> None:
    body = {"text": json.dumps(document), "take": []} if path.endswith("designs") else {"base": 1, "document": document}
    assert call("POST", path, body, build_id=Build.objects.latest("pk").pk)[0] < 500
