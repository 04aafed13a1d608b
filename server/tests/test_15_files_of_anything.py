"""Every address that gives a file gives one, whatever the design is: far, tiny, huge, bare, with names of any letters."""

import csv
import io
import json
from xml.etree import ElementTree

import ezdxf
import pytest
from speaking import Caller
from test_23_sheets_of_anything import bare, extremes

from oak_lever.api import write_design

ADDRESSES = (
    "file",
    "sheet.svg",
    "sheet.pdf",
    "sheet.svg?units=mm&paper=letter",
    "cycle.csv",
    "room.dxf",
    "engineer.pdf",
)


def read(address: str, content: bytes) -> None:
    """Read it as the program would that it is for."""
    if address.startswith("sheet.svg"):
        ElementTree.fromstring(content)
    elif address in ("sheet.pdf", "engineer.pdf"):
        assert content.startswith(b"%PDF-")
    elif address == "room.dxf":
        ezdxf.read(io.StringIO(content.decode()))  # type: ignore[attr-defined]
    elif address == "cycle.csv":
        rows = list(csv.reader(io.StringIO(content.decode())))
        assert len({len(row) for row in rows}) == 1
    else:
        assert isinstance(json.loads(content), dict)


@pytest.mark.django_db
@pytest.mark.filterwarnings("ignore")
def test_every_address_of_a_file_gives_one_that_programs_read(call: Caller) -> None:
    taken = 0
    for document in [*extremes(50), *bare()]:
        build = call(
            "POST", "/api/builds", {"name": document.name.encode(errors="replace").decode() or "x", "notes": ""}
        )
        assert build[0] in (201, 422)
        if build[0] == 422:
            build = call("POST", "/api/builds", {"name": "Truck", "notes": ""})
        status, made = call(
            "POST", "/api/builds/{build_id}/designs", {"text": write_design(document)}, build_id=build[1]["id"]
        )
        assert status in (201, 422), made
        if status == 422:
            continue
        taken += 1
        for address in ADDRESSES:
            said = call.client.get(f"/api/designs/{made['design']}/{address}")
            if address == "engineer.pdf" and said.status_code == 422:
                assert json.loads(said.content)["message"]  # loads that can't be reckoned, in words
                continue
            assert said.status_code == 200, (address, said.content[:300])
            head = said.headers.get("Content-Disposition", "")
            assert head.isascii()
            assert head.isprintable()
            read(address, said.content)
        truck = call.client.get(f"/api/builds/{build[1]['id']}/truck/file")
        assert truck.status_code == 200
        assert truck.headers["Content-Disposition"].isprintable()
    assert taken >= 3
