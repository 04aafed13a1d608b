"""How a question is put: its message, what is answered, and which kind of work it is.

A question is one function of an area's file. It takes its message and is run in a process of its own, so nothing here
reads or writes what is kept.
"""

from collections.abc import Callable, Generator, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Annotated, Any, Literal, NamedTuple

import orjson
from pydantic import BaseModel, ConfigDict, Field, GetCoreSchemaHandler, GetJsonSchemaHandler, StringConstraints
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, core_schema

from oak_lever.api import LARGEST_MM, Design, Fault, Refused, Stock, Truck

JSON = "application/json"
Kind = Literal["hand", "result", "advice", "long", "files"]
"""A hand on the drawing; a hand on a result, which waits for its own kind only; advice, starts and sheets, which give
way to both; and what is looked at meanwhile: what goes on for longer than anybody waits, and files that are made."""


class Done(NamedTuple):
    """An answer: its status, its bytes, and what they are."""

    status: int
    body: bytes
    media: str = JSON


class Payload(BaseModel):
    """What is asked, or answered. Built when it is first needed: most never are, and all of them at once take seconds
    of the start."""

    model_config = ConfigDict(defer_build=True)


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


Document = Annotated[Design, Unchecked(Design)]
TruckDocument = Annotated[Truck, Unchecked(Truck)]
Measure = Annotated[float, Field(gt=0, le=LARGEST_MM)]
Anywhere = Annotated[float, Field(ge=-LARGEST_MM, le=LARGEST_MM)]
Increment = Annotated[float, Field(ge=0.1, le=100)]
Named = Annotated[str, Field(max_length=200)]
Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]


class InPose(Payload):
    """A document, and the pose the scrubbers ask for."""

    document: Document
    travel: Anywhere = 0.0
    articulation: Annotated[float, Field(gt=-90, lt=90)] = 0.0


@dataclass(frozen=True)
class Endpoint:
    """Where a question is put: its path under the API, its message, what is answered, and its name in the contract."""

    path: str
    takes: type[Payload]
    gives: Any
    name: str


@dataclass(frozen=True)
class Watched:
    """Long work: its path under `work/`, its message (None where the server itself begins it), what is answered, and
    its name in the contract."""

    path: str
    takes: type[Payload] | None
    gives: Any
    name: str


class Job(NamedTuple):
    """What is run, and which kind of work it is."""

    function: Callable[..., Any]
    kind: Kind


JOBS: dict[str, Job] = {}
ENDPOINTS: list[Endpoint] = []
LONG: list[Watched] = []
"""Those of long work: begun there, looked at and ended under the number that is answered."""


class SoFar(NamedTuple):
    """What long work has come to: which share of it is done, 0 to 1, and its result as it is now."""

    share: float
    result: Any


Going = Generator[SoFar, None, Any]
"""Long work: yields how far it is, and returns what it comes to."""


def question(path: str, gives: Any, kind: Kind = "advice", name: str = "") -> Callable[[Any], Any]:
    """Register a function of one message, `asked`, as a question: it is put by POST to `path`, and known by `name`, or
    else the path."""

    def known(function: Callable[[Any], Any]) -> Callable[[Any], Any]:
        own = name or path
        ENDPOINTS.append(Endpoint(path, function.__annotations__["asked"], gives, own))
        JOBS[own] = Job(function, kind)
        return function

    return known


def long_question(path: str, gives: Any) -> Callable[[Any], Any]:
    """Register a generator (`Going`) of one message, `asked`, as long work, known by its path."""

    def known(function: Callable[[Any], Going]) -> Callable[[Any], Going]:
        LONG.append(Watched(path, function.__annotations__["asked"], gives, path))
        JOBS[path] = Job(function, "long")
        return function

    return known


def watched_job(path: str, gives: Any) -> Callable[[Any], Any]:
    """Register a generator (`Going`) of keywords as long work that makes files and that the server itself begins."""

    def known(function: Callable[..., Going]) -> Callable[..., Going]:
        LONG.append(Watched(path, None, gives, path))
        JOBS[path] = Job(function, "files")
        return function

    return known


def job(name: str, kind: Kind = "advice") -> Callable[[Any], Any]:
    """Register a function that the server itself asks for, by its name; it takes what it is given by keywords."""

    def known(function: Callable[..., Any]) -> Callable[..., Any]:
        JOBS[name] = Job(function, kind)
        return function

    return known


def json_bytes(data: Any) -> bytes:
    """The core's values by their fields, numpy arrays as lists, NaN as null."""
    return orjson.dumps(data, option=orjson.OPT_SERIALIZE_NUMPY | orjson.OPT_UTC_Z)


def refusal_data(refusal: Refused) -> dict[str, Any]:
    return {"message": "; ".join(map(str, refusal.faults)), "faults": refusal.faults}


def done(name: str, given: Any, tell: Callable[[SoFar], None] | None = None) -> Done:
    """The answer to a job, a refusal among them: to one message, or to what is given by keywords. Of long work `tell`
    is told how far it is."""
    function = JOBS[name].function
    try:
        said = function(**given) if isinstance(given, dict) else function(given)
        if tell is not None:
            said = _gone_through(said, tell)
    except Refused as refusal:
        return Done(422, json_bytes(refusal_data(refusal)))
    return said if isinstance(said, Done) else Done(200, json_bytes(said))


def _gone_through(going: Going, tell: Callable[[SoFar], None]) -> Any:
    while True:
        try:
            tell(next(going))
        except StopIteration as end:
            return end.value


def stock_from(given: dict[str, Any] | None) -> Stock | None:
    """Tubes and sheets as a page sends them; none where it sends none.

    Raises:
        Refused: for what is no stock.
    """
    try:
        return None if given is None else Stock.model_validate(given)
    except ValueError as error:
        raise Refused([Fault("stock", "can't be read; check sizes and counts")]) from error


@contextmanager
def refusing(field: str) -> Iterator[None]:
    """What the core says is wrong with one field of the question, as a refusal at that field."""
    try:
        yield
    except Refused:
        raise
    except ValueError as error:
        raise Refused([Fault(field, str(error))]) from None
