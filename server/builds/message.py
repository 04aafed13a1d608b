"""What the API's messages are made of."""

from typing import Any

from ninja import Schema
from pydantic import BaseModel, GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

# A message is built when it is first needed: most never are, and all of them at once take seconds of the start.
Schema.model_config["defer_build"] = True


class Unchecked:
    """A document of the core's in the contract, taken as it comes: the core's own reader checks it, and says every
    fault by its path."""

    def __init__(self, model: type[BaseModel]) -> None:
        self._model = model

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.any_schema()

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        self._model.model_rebuild()
        known: Any = self._model.__pydantic_core_schema__
        name = f"{self._model.__module__}.{self._model.__qualname__}:{id(self._model)}"  # listed once, and referred to
        if known["type"] != "definitions":
            return handler({**known, "ref": name})
        return handler({**known, "schema": {**known["schema"], "ref": name}})


__all__ = ["Schema", "Unchecked"]
