"""The command, as a shop runs it: its own process, its own words, its exit status."""

import csv
import io
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from designs import COMMAND, DEMO, run

from oak_lever.api import write_design
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.figures.rows import COLUMNS

TENDER = str(DEMO / "fell-tender-rear.json")
SCREE = str(DEMO / "scree-runner-rear.json")


def test_cycle_json_has_every_field_of_the_format() -> None:
    done = run("cycle", TENDER, "--json")
    assert (done.returncode, done.stderr) == (0, "")
    said = json.loads(done.stdout)
    assert list(said) == [
        "format", "version", "design", "links", "separation", "stops", "ride", "heave", "articulation", "limits",
        "settles_at",
    ]  # fmt: skip
    assert (said["format"], said["version"], said["design"]) == ("oak-lever-cycle", 1, "Fell tender, rear")
    assert len(said["heave"]) == len(said["articulation"]) == 41
    row = said["ride"]
    shaft = {"shaft_length", "shaft_slip", "case_joint", "pinion_joint", "shaft_unsteady"}
    assert set(row) == {*COLUMNS, "reached", "misalignment", "shocks", "stops", "straps", *shaft}
    assert set(row["misalignment"]) == {f"{link['id']}.{end}" for link in said["links"] for end in ("axle", "frame")}
    assert said["heave"][0]["travel"] == -171.45
    assert said["heave"][-1]["travel"] == 120.65


def test_steps_and_standard_input() -> None:
    said = json.loads(run("cycle", "-", "--json", "--steps", "7", text=Path(TENDER).read_text()).stdout)
    assert len(said["heave"]) == 7


@pytest.mark.parametrize("name", LAYOUTS)
def test_every_layout_cycles(name: str) -> None:
    done = run("cycle", "-", "--json", "--steps", "5", text=write_design(layout(name)))
    assert done.returncode == 0
    assert all(row["reached"] for row in json.loads(done.stdout)["articulation"])


def test_table_is_readable_and_cautions() -> None:
    done = run("cycle", TENDER, "--steps", "5")
    assert done.returncode == 0
    assert "not an approval" in done.stdout
    assert "-171.4" in done.stdout or "-171.5" in done.stdout


def test_one_pose() -> None:
    said = json.loads(run("cycle", TENDER, "--json", "--steps", "3", "--travel", "50", "--articulation", "-4").stdout)
    assert (said["pose"]["travel"], said["pose"]["articulation"]) == (50, -4)
    assert said["pose"]["reached"]
    table = run("cycle", TENDER, "--travel", "50").stdout
    assert table.count("50.0") >= 1
    assert "-171" not in table


def test_csv_has_every_figure_of_both_sweeps() -> None:
    rows = list(csv.DictReader(io.StringIO(run("cycle", TENDER, "--csv", "--steps", "5").stdout)))
    said = json.loads(run("cycle", TENDER, "--json", "--steps", "5").stdout)
    assert len(rows) == 10
    for row, known in zip(rows, said["heave"] + said["articulation"], strict=True):
        assert row["reached"] == "true"
        for name in COLUMNS:
            assert row[name] == ("" if known[name] is None else str(known[name]))
        for joint, turned in known["misalignment"].items():
            assert float(row[f"misalignment {joint}"]) == turned


@pytest.mark.parametrize("pose", [["--travel", "up"], ["--travel", "nan"], ["--articulation", "90"]])
def test_pose_that_makes_no_sense_is_refused(pose: list[str]) -> None:
    done = run("cycle", TENDER, *pose)
    assert done.returncode == 2
    assert "must" in done.stderr
    assert "Traceback" not in done.stderr


def test_check_prints_findings_and_cautions() -> None:
    loose = json.loads(Path(TENDER).read_text())
    loose["links"].pop()
    done = run("check", "-", text=json.dumps(loose))
    assert done.returncode == 0
    assert "stop: Axle loose. Nothing holds the axle" in done.stdout
    assert "not an approval" in done.stdout


REFUSED: list[tuple[list[str], str, list[str]]] = [
    (["cycle", "-"], "{", ["not JSON"]),
    (
        ["cycle", "-", "--json"],
        '{"format": "oak-lever-design", "version": 9}',
        ["version: must be 1", "axle: is missing"],
    ),
    (["check", "nowhere.json"], "", ["cannot be read"]),
    (["cycle", "/"], "", ["cannot be read"]),
]


@pytest.mark.parametrize(("arguments", "text", "said"), REFUSED)
def test_refusals_are_lines_on_stderr_and_status_2(arguments: list[str], text: str, said: list[str]) -> None:
    done = run(*arguments, text=text)
    assert (done.returncode, done.stdout) == (2, "")
    assert "Traceback" not in done.stderr
    for words in said:
        assert words in done.stderr


@pytest.mark.parametrize("steps", ["1", "0", "-4", "x", "99999999", "1.5"])
def test_steps_that_make_no_sense_are_refused(steps: Any) -> None:
    done = run("cycle", TENDER, "--steps", steps)
    assert done.returncode == 2
    assert "whole number from 2" in done.stderr


NAMED = write_design(layout("double triangulated").rewritten(name="Fjäll \x1b[31m wagon\n", notes="ÿ"))


@pytest.mark.parametrize("arguments", [["cycle", "-"], ["cycle", "-", "--json"], ["check", "-"]])
def test_a_plain_terminal_shows_every_name_and_obeys_none(arguments: list[str]) -> None:
    plain = {**os.environ, "PYTHONIOENCODING": "ascii"}
    done = subprocess.run([str(COMMAND), *arguments], input=NAMED.encode(), capture_output=True, env=plain, check=False)
    assert (done.returncode, done.stderr) == (0, b"")
    assert done.stdout.isascii()
    assert b"\x1b" not in done.stdout
    assert (json.loads(done.stdout)["design"] if "--json" in arguments else "") in ("Fjäll \x1b[31m wagon\n", "")


def test_a_refusal_says_a_name_that_would_be_obeyed_plainly() -> None:
    data = json.loads(NAMED)
    data["links"][1]["id"] = data["links"][0]["id"] = "\x1b[31m"
    done = run("check", "-", text=json.dumps(data))
    assert done.returncode == 2
    assert "\x1b" not in done.stderr


@pytest.mark.parametrize("arguments", [["cycle", TENDER, "--json"], ["check", SCREE]])
def test_a_full_disk_is_said_and_a_reader_that_stops_is_no_error(arguments: list[str]) -> None:
    with Path("/dev/full").open("w") as full:
        done = subprocess.run([str(COMMAND), *arguments], stdout=full, stderr=subprocess.PIPE, text=True, check=False)
    assert (done.returncode, "Traceback" in done.stderr) == (1, False)
    assert "not written" in done.stderr
    piped = subprocess.Popen([str(COMMAND), *arguments], stdout=subprocess.PIPE, stderr=subprocess.PIPE)
    assert piped.stdout is not None
    assert piped.stderr is not None
    piped.stdout.close()
    assert piped.wait(60) == 0
    assert piped.stderr.read() == b""
    piped.stderr.close()


def test_one_cycle_does_not_wait_for_the_compiler() -> None:
    script = """
import sys
from oak_lever.entry import main
main()
print("numba" in sys.modules, file=sys.stderr)
"""
    for command, loaded in (("cycle", "False"), ("check", "True")):
        done = subprocess.run(
            [sys.executable, "-c", script, command, TENDER], capture_output=True, text=True, check=True
        )
        assert done.stderr.strip() == loaded


def test_check_says_what_would_cure_it_what_it_rests_on_and_what_the_school_comes_to() -> None:
    short = layout("double triangulated").rewritten(school="short_upper")
    said = run("check", "-", text=write_design(short)).stdout
    assert "to cure it: upper link axle ends" in said
    assert "Worse then: " in said
    assert "holds while the loaded tire radius" in said
    assert "with uppers as long as the lowers" in said


def test_anti_squat_is_judged_whatever_the_shares() -> None:
    none = layout("double triangulated")
    none = none.rewritten(vehicle=none.vehicle.rewritten(drive_share=0.0, brake_share=0.0))
    assert "Anti-squat" in run("check", "-", text=write_design(none)).stdout
