"""What comes twice is done once, and nobody's change goes by in silence: operations' own numbers, bases, the bin."""

import threading
from typing import Any

import pytest
from django.db import connection
from speaking import DESIGN, REVISIONS, TENDER, Caller, edited

from builds.models import Build, Design, Operation, Revision, TruckRevision
from builds.once import forget_old

pytestmark = pytest.mark.django_db
BUILD = "/api/builds/{build_id}"
NUMBER = "7f1a2b3c-0001"


def counted() -> tuple[int, ...]:
    return tuple(model.objects.count() for model in (Build, Design, Revision, TruckRevision))


def operations(call: Caller, design: int) -> list[tuple[str, str, Any, dict[str, int], int]]:
    """Every way to change what is kept: method, path, body, ids and what it answers."""
    head = call("GET", DESIGN, design_id=design)[1]
    build = head["build"]
    truck = call("GET", f"{BUILD}/truck", build_id=build)[1]
    document = truck["document"]
    return [
        ("POST", "/api/builds", {"name": "Yard truck", "notes": ""}, {}, 201),
        ("PUT", BUILD, {"base": 1, "name": "Other words", "notes": ""}, {"build_id": build}, 200),
        ("POST", f"{BUILD}/designs", {"text": TENDER}, {"build_id": build}, 201),
        ("POST", f"{DESIGN}/alternatives", {"name": "Another", "why": "to see"}, {"design_id": design}, 201),
        ("POST", REVISIONS, {"base": 1, "truck": 1, "document": edited(head["document"], 400.0)}, {"design_id": design}, 201),
        ("PUT", f"{DESIGN}/name", {"base": 2, "name": "New name"}, {"design_id": design}, 200),
        ("POST", f"{BUILD}/truck/revisions", {"base": 1, "document": {**document, "name": "T"}}, {"build_id": build}, 201),
        ("POST", f"{BUILD}/truck/move", {"base": 2, "end": "rear", "by": 10.0}, {"build_id": build}, 201),
        ("POST", f"{BUILD}/truck/radius",
         {"base": 3, "end": "rear", "radius": 440.0, "meant": "sits", "source": "measured"}, {"build_id": build}, 201),
        ("DELETE", DESIGN, None, {"design_id": design}, 204),
        ("POST", f"{DESIGN}/restore", None, {"design_id": design}, 200),
        ("DELETE", BUILD, None, {"build_id": build}, 204),
        ("POST", f"{BUILD}/restore", None, {"build_id": build}, 200),
    ]  # fmt: skip


def test_each_operation_that_comes_again_is_answered_and_not_done_again(call: Caller, design: int) -> None:
    for n, (method, path, body, ids, status) in enumerate(operations(call, design)):
        more: dict[str, Any] = {"operation": f"{NUMBER}-{n}", **ids}
        if method == "DELETE":
            more["base"] = Design.objects.get(pk=design).head().number if "design_id" in ids else Build.objects.get(pk=ids["build_id"]).number  # fmt: skip
        first = call(method, path, body, **more)
        assert first[0] == status, (method, path, first)
        stood = counted()
        again = call(method, path, body, **more)
        assert again == first
        assert counted() == stood
    assert Operation.objects.count() == 13


def test_a_number_is_one_operations_alone_and_looks_like_one(call: Caller, design: int) -> None:
    assert call("POST", "/api/builds", {"name": "One", "notes": ""}, operation=NUMBER)[0] == 201
    status, said = call("POST", f"{BUILD}/restore", operation=NUMBER, build_id=Build.objects.all()[0].pk)
    assert (status, "something else" in said["message"]) == (422, True)
    assert call("POST", "/api/builds", {"name": "One", "notes": ""}, operation="no number!")[0] == 422


def test_what_was_refused_may_come_again_under_its_number(call: Caller, design: int) -> None:
    document = call("GET", DESIGN, design_id=design)[1]["document"]
    edit = {"base": 9, "truck": 1, "document": edited(document, 400.0)}
    assert call("POST", REVISIONS, edit, operation=NUMBER, design_id=design)[0] == 409
    assert call("POST", REVISIONS, {**edit, "base": 1}, operation=NUMBER, design_id=design)[0] == 201
    assert call("POST", REVISIONS, {**edit, "base": 1}, operation=NUMBER, design_id=design)[1]["number"] == 2


def test_numbers_that_no_device_can_come_with_any_more_are_forgotten(call: Caller) -> None:
    call("POST", "/api/builds", {"name": "Old", "notes": ""}, operation=f"{NUMBER}-old")
    call("POST", "/api/builds", {"name": "New", "notes": ""}, operation=f"{NUMBER}-new")
    Operation.objects.filter(number=f"{NUMBER}-old").update(created_at="2020-01-01T00:00:00Z")
    forget_old()
    assert [one.number for one in Operation.objects.all()] == [f"{NUMBER}-new"]


def test_a_build_changed_meanwhile_is_not_renamed_or_deleted_in_silence(call: Caller, design: int) -> None:
    build = Build.objects.get().pk
    assert call("PUT", BUILD, {"base": 1, "name": "Mine", "notes": ""}, build_id=build)[1]["number"] == 2
    status, said = call("PUT", BUILD, {"base": 1, "name": "Theirs", "notes": ""}, build_id=build)
    assert (status, said["newest"]["name"], said["newest"]["number"]) == (409, "Mine", 2)
    assert call("PUT", BUILD, {"base": 1, "name": "Mine", "notes": ""}, build_id=build)[0] == 200  # as it is already
    assert call("DELETE", BUILD, base=1, build_id=build)[0] == 409
    assert call("DELETE", BUILD, base=2, build_id=build)[0] == 204
    assert call("DELETE", DESIGN, base=1, design_id=design)[0] == 410


def test_a_design_changed_meanwhile_is_not_renamed_or_deleted_in_silence(call: Caller, design: int) -> None:
    assert call("PUT", f"{DESIGN}/name", {"base": 1, "name": "Mine"}, design_id=design)[1]["number"] == 2
    assert call("PUT", f"{DESIGN}/name", {"base": 1, "name": "Theirs"}, design_id=design)[0] == 409
    assert call("PUT", f"{DESIGN}/name", {"base": 2, "name": " "}, design_id=design)[0] == 422
    assert call("DELETE", DESIGN, base=1, design_id=design)[0] == 409
    assert call("GET", DESIGN, design_id=design)[1]["document"]["name"] == "Mine"


def test_a_build_in_the_bin_takes_nothing(call: Caller, design: int) -> None:
    every = operations(call, design)
    build = Build.objects.get().pk
    assert call("DELETE", BUILD, base=1, build_id=build)[0] == 204
    stood = counted()
    for method, path, body, ids, _ in every:
        if not ids or path.endswith("restore"):
            continue
        more: dict[str, Any] = {**ids, **({"base": 1} if method == "DELETE" else {})}
        status, said = call(method, path, body, **more)
        assert status == 410, (method, path, said)
        assert "back" in said["message"]
    start = {
        "name": "Rear", "layout": "three_link_panhard", "school": "hold_pinion", "end": "front", "tire_diameter": 840,
        "track": 1600,
    }  # fmt: skip
    assert call("POST", f"{BUILD}/starts", start, build_id=build)[0] in (410, 422)
    assert counted() == stood


@pytest.mark.django_db(transaction=True)
def test_of_renames_at_once_one_is_done_and_the_others_are_told() -> None:
    caller = Caller()
    build = caller("POST", "/api/builds", {"name": "Yard truck", "notes": ""})[1]["id"]
    answered: list[int] = []

    def rename(n: int) -> None:
        status = 503
        while status == 503:  # the tests' store in memory locks whole tables: then it is asked again, as a page does
            status = caller("PUT", BUILD, {"base": 1, "name": f"Name {n}", "notes": ""}, build_id=build)[0]
        answered.append(status)
        connection.close()

    hands = [threading.Thread(target=rename, args=(n,)) for n in range(6)]
    for one in hands:
        one.start()
    for one in hands:
        one.join()
    assert sorted(answered) == [200, *[409] * 5]
    assert Build.objects.get().number == 2
