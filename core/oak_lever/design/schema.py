"""The design file's JSON Schema, from the types that read it: ``python -m oak_lever.design.schema``."""

import json
from typing import Any

from oak_lever.design.types import Design


def design_schema() -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of a design file; an id used twice or coincident mounts only the reader sees."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Design.model_json_schema()}


if __name__ == "__main__":
    print(json.dumps(design_schema(), indent=2))
