"""Speaking to the API as the page does, each answer held against the contract."""

import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import jsonschema
from django.test import Client

MANAGE = Path(__file__).resolve().parents[1] / "manage.py"
CONTRACT = Path(__file__).resolve().parents[1] / "contract" / "openapi.json"
TENDER = (Path(__file__).resolve().parents[1] / "builds" / "demo" / "fell-tender-rear.json").read_text()
DESIGN = "/api/designs/{design_id}"
REVISIONS = f"{DESIGN}/revisions"
ROD = {
    "limit": 28, "give": 0, "width": 57.0, "bolt": 12.7,
    "end": {"kind": "threaded", "shank": 73, "shoulder": 22, "nut": 11, "least_in": 24, "pitch": 1.5875},
}  # fmt: skip


def bracketed() -> Any:
    """The tender with rod ends on everything and a bracket on each lower's axle mount, one of which can't be made."""
    document = json.loads(TENDER)
    document["joints"] = {"rod": ROD}
    for link in document["links"]:
        link["axle"]["joint"] = link["frame"]["joint"] = "rod"
    plain = {"base": {"kind": "tube"}, "plate": 6.35}
    document["brackets"] = [
        {"id": "b1", "mounts": ["lower-left.axle"], "edge": 22.0, **plain},
        {"id": "b2", "mounts": ["lower-right.axle"], "edge": 5.0, **plain},
    ]
    return document


def edited(document: dict[str, Any], height: float) -> dict[str, Any]:
    """The document with its first axle mount at another height."""
    copy: dict[str, Any] = json.loads(json.dumps(document))
    copy["links"][0]["axle"]["at"][2] = height
    return copy


def managed(data: Path, *command: str, right: bool = True) -> str:
    """What a management command says, on a store of its own in `data`; it ends well, or badly where not `right`."""
    environment = {**os.environ, "OAK_LEVER_DATA": str(data)}
    environment.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)  # the browser tests' own
    done = subprocess.run(
        [sys.executable, MANAGE, *command], env=environment, capture_output=True, text=True, check=False
    )
    said = done.stdout + done.stderr
    assert (done.returncode == 0) == right, said
    assert "Traceback" not in said
    return said


class Caller:
    """Speaks to the API as the page does, and checks each answer against the contract's schema for it."""

    def __init__(self) -> None:
        self.client = Client()
        self.contract = json.loads(CONTRACT.read_text())

    def __call__(
        self,
        method: str,
        path: str,
        body: Any = None,
        base: int | None = None,
        operation: str | None = None,
        **ids: int | str,
    ) -> tuple[int, Any]:
        """`base`: what a deletion is made against; `operation`: this one's own number."""
        url = path.format(**ids) + ("" if base is None else f"?base={base}")
        sent: dict[str, Any] = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        headers = {} if operation is None else {"X-Oak-Lever-Operation": operation}
        response = self.client.generic(method, url, headers=headers, **sent)
        said = json.loads(response.content) if response.content else None
        known = self.contract["paths"][path][method.lower()]["responses"]
        assert str(response.status_code) in known, f"{method} {path} answers {response.status_code} beside its contract"
        schema = known[str(response.status_code)].get("content", {}).get("application/json", {}).get("schema")
        if schema:
            whole = {**schema, "components": self.contract["components"]}
            jsonschema.Draft202012Validator(whole).validate(said)
        return response.status_code, said
