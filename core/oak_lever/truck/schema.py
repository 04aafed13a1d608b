"""The truck file's JSON Schema, from the types that read it: ``python -m oak_lever.truck.schema``."""

import json
from typing import Any

from oak_lever.truck.types import Truck


def truck_schema() -> dict[str, Any]:
    """JSON Schema (draft 2020-12) of a truck file; what holds between its parts only the reader sees."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **Truck.model_json_schema()}


if __name__ == "__main__":
    print(json.dumps(truck_schema(), indent=2))
