"""A fit-up as a file: out and in again it is the same; beside another tablet's it is both."""

import json
import random
from pathlib import Path
from typing import Any

import pytest
from designs import DEMO, run

from oak_lever.api import FitRecord, Refused, bring_fit, fit_record_from, read_design, write_fit

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
SPOTS = ("lower-left.axle", "lower-right.frame", "upper-left.frame")


def reading(n: int, value: float = 600.0) -> dict[str, Any]:
    return {"id": f"r{n}", "kind": "height", "of": SPOTS[n % 3], "value": value, "unit": "mm"}


def mark(gate: str, at: str) -> dict[str, Any]:
    return {"gate": gate, "result": "passed", "by": "Wren", "at": at}


WHOLE = {
    "notes": "blocked at ride", "readings": [reading(n) for n in range(6)], "pose": {"travel": 3.0},
    "stood": [{"id": "w1", "kind": "pinion", "value": 9.0}, {"id": "w2", "kind": "strut", "of": "coilover-left", "value": 27.0, "unit": "in"}],
    "gates": [mark("baseline", "2030-01-02"), mark("marked", "2030-01-03")],
    "gate_order": {"gates": ["baseline", "tacked", "marked"], "reason": "tacked elsewhere"},
    "drives": [{"id": "d1", "setting": "upper hole", "felt": ["hops"], "figures": {"anti_squat": 71.0}}],
    "orders": [{"id": "o1", "what": "Rod ends", "count": 8, "due": "2030-02-01"}], "pace": {"a_day": 6.0},
}  # fmt: skip


def kept(**what: Any) -> FitRecord:
    return fit_record_from(what)


def test_out_and_in_again_it_is_the_same_and_the_command_reads_it(tmp_path: Path) -> None:
    record = kept(**WHOLE)
    text = write_fit(TENDER, record)
    found = bring_fit(text, TENDER, kept())
    assert fit_record_from(found.record) == record
    assert (found.added, found.there, found.differ, found.strange) == (6 + 2 + 2 + 1 + 1, 0, (), {})
    again = bring_fit(text, TENDER, record)
    assert fit_record_from(again.record) == record
    assert (again.added, again.there) == (0, 12)
    assert write_fit(TENDER, fit_record_from(again.record)) == text
    log = tmp_path / "log.json"
    log.write_text(text)
    done = run("fit", str(DEMO / "fell-tender-rear.json"), str(log), "--json")
    assert done.returncode == 0, done.stderr
    assert len(json.loads(done.stdout)["mounts"]) == 8


@pytest.mark.parametrize("seed", range(5))
def test_of_two_tablets_both_keep_theirs_and_what_both_changed_is_said(seed: int) -> None:
    chance = random.Random(seed)
    common = [reading(n) for n in range(4)]
    ours = [one | ({"value": 601.0} if chance.random() < 0.5 else {}) for one in common] + [
        reading(10 + n) for n in range(3)
    ]
    theirs = [one | ({"value": 602.0} if chance.random() < 0.5 else {}) for one in common] + [
        reading(20 + n) for n in range(2)
    ]
    chance.shuffle(theirs)
    gates = [mark("baseline", "2030-01-02")], [mark("baseline", "2030-01-02"), mark("marked", "2030-01-01")]
    here, there = kept(readings=ours, gates=gates[0]), kept(readings=theirs, gates=gates[1])
    found = bring_fit(write_fit(TENDER, there), TENDER, here)
    then = fit_record_from(found.record)
    assert {one.id for one in then.readings} == {one["id"] for one in (*ours, *theirs)}
    by_id = {one.id: one for one in then.readings}
    for one in ours:
        assert by_id[one["id"]].model_dump(exclude_unset=True) == one  # what was here stays
    changed = {one.id for one in here.readings for other in there.readings if one.id == other.id and one != other}
    assert set(found.differ) == {f"reading {name}" for name in changed}
    assert found.added == 2 + 1
    assert [one.gate for one in then.gates] == ["marked", "baseline"]  # by when
    assert found.there == len(common) - len(changed) + 1


def test_a_reading_of_what_the_design_has_not_is_said_and_kept() -> None:
    gone = {"id": "r9", "kind": "height", "of": "old.frame", "value": 500.0, "unit": "mm"}
    stood = {"id": "w9", "kind": "strut", "of": "old", "value": 500.0, "unit": "mm"}
    found = bring_fit(write_fit(TENDER, kept(readings=[gone], stood=[stood])), TENDER, kept(**WHOLE))
    assert set(found.strange) == {"r9", "w9"}
    then = fit_record_from(found.record)
    assert {"r9", "r0"} <= {one.id for one in then.readings}
    assert (then.notes, then.pace.a_day, then.pose.travel) == ("blocked at ride", 6.0, 3.0)


@pytest.mark.parametrize(("text", "words"), [
    ("{", "JSON"), ("[]", "outermost"), ('{"format": "oak-lever-design", "version": 1, "readings": []}', "format"),
    ('{"format": "oak-lever-fit", "version": 1}', "readings"),
    ('{"format": "oak-lever-fit", "version": 1, "name": "Yard truck", "readings": []}', "another design|Yard truck"),
    (json.dumps({"format": "oak-lever-fit", "version": 1, "readings": [reading(1), reading(1)]}), "twice"),
    (json.dumps({"format": "oak-lever-fit", "version": 1, "readings": [], "stood": [{"id": "w", "kind": "pinion", "value": 95.0}]}), "90"),
])  # fmt: skip
def test_what_is_no_log_of_this_design_is_refused(text: str, words: str) -> None:
    with pytest.raises(Refused, match=words):
        bring_fit(text, TENDER, kept())
