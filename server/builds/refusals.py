"""What the API says where it does not do what was asked: every refusal and failure in words, with its status."""

import logging
from collections.abc import Callable
from typing import Any

from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Router, Schema
from ninja.errors import HttpError, ValidationError

from builds import actions, answers, long_work, workers
from builds.answers import answer
from builds.packing import Damaged
from builds.questions.asking import refusal_data
from config.guard import NUMBER, broken
from cutting.exchange import NoAnswer
from instruments.line import Lost, NoReading
from oak_lever.api import Refused

# What an endpoint answers is built into a message when that is first needed, as are the messages themselves.
Schema.model_config["defer_build"] = True

Say = Callable[[HttpRequest, Any], HttpResponse]
_SAYS: dict[type[Exception], Say] = {}


def _of(*kinds: type[Exception]) -> Callable[[Say], Say]:
    """What is said of errors of these kinds."""

    def known(say: Say) -> Say:
        _SAYS.update(dict.fromkeys(kinds, say))
        return say

    return known


@_of(NoReading, Lost, NoAnswer)
def _no_answer(request: HttpRequest, error: Exception) -> HttpResponse:
    return answer({"message": str(error)}, 409)


@_of(Refused)
def _refused(request: HttpRequest, refusal: Refused) -> HttpResponse:
    return answer(refusal_data(refusal), 422)


@_of(ValidationError)
def _not_understood(request: HttpRequest, error: ValidationError) -> HttpResponse:
    faults = [{"path": ".".join(str(step) for step in e["loc"][2:]), "message": e["msg"]} for e in error.errors]
    return answer({"message": "; ".join(f"{f['path']}: {f['message']}" for f in faults), "faults": faults}, 422)


@_of(HttpError)
def _not_readable(request: HttpRequest, error: HttpError) -> HttpResponse:
    return answer({"message": f"{error}.", "faults": []}, error.status_code)


@_of(workers.Busy)
def _busy(request: HttpRequest, busy: workers.Busy) -> HttpResponse:
    said = answer({"message": "The server has its hands full with other questions. Ask again in a moment."}, 503)
    said["Retry-After"] = "1"
    return said


@_of(workers.TooLong)
def _too_long(request: HttpRequest, stopped: workers.TooLong) -> HttpResponse:
    return answer({"message": f"This took longer than {stopped} s and was stopped. Nothing was changed."}, 503)


@_of(workers.Broke)
def _broke(request: HttpRequest, broke: workers.Broke) -> HttpResponse:
    logging.getLogger("oak_lever").error("request %s: %s", request.META.get(NUMBER), broke)
    return broken(request)


@_of(DatabaseError)
def _store_fails(request: HttpRequest, error: DatabaseError) -> HttpResponse:
    """Full, locked too long, damaged: what SQLite says of it holds no document's content."""
    logging.getLogger("oak_lever").error("request %s: the store: %s", request.META.get(NUMBER), error)
    return answer({"message": f"The store could not be read or written: {error}. Nothing was changed."}, 503)


@_of(long_work.Unknown)
def _no_such_work(request: HttpRequest, unknown: long_work.Unknown) -> HttpResponse:
    return answer({"message": "There is no such work any longer: begin it anew."}, 404)


@_of(workers.Left)
def _left(request: HttpRequest, left: workers.Left) -> HttpResponse:
    return answer({"message": "Stopped: whoever asked has left."}, 503)


@_of(Damaged)
def _damaged(request: HttpRequest, damaged: Damaged) -> HttpResponse:
    said = f"The store is damaged: {damaged} cannot be read. Start the server again: it saves what can be read."
    return answer({"message": said}, 410)


@_of(actions.Conflict)
def _conflict(request: HttpRequest, conflict: actions.Conflict) -> HttpResponse:
    said = f"Revision {conflict.newest.number} was stored meanwhile."
    return answer({"message": said, "newest": answers.made_data(conflict.newest)}, 409)


@_of(actions.BuildChanged)
def _build_changed(request: HttpRequest, changed: actions.BuildChanged) -> HttpResponse:
    said = "Somebody else renamed this build, or brought it back, meanwhile. Look at it, then do it again."
    return answer({"message": said, "newest": answers.made_data(changed.newest)}, 409)


@_of(actions.Binned)
def _binned(request: HttpRequest, binned: actions.Binned) -> HttpResponse:
    return answer({"message": "This build lies in the bin. Bring it back first; nothing of it is lost there."}, 410)


@_of(actions.TruckDiffers)
def _differs(request: HttpRequest, differs: actions.TruckDiffers) -> HttpResponse:
    words = ", ".join(one.words for one in differs.found)
    return answer({"message": f"The file has it otherwise: {words}.", "differences": differs.found}, 409)


@_of(actions.Deleted)
def _gone(request: HttpRequest, deleted: actions.Deleted) -> HttpResponse:
    return answer({"message": "This design was deleted. Its revisions are kept; it can be brought back."}, 410)


@_of(OverflowError)
def _beyond_numbers(request: HttpRequest, error: OverflowError) -> HttpResponse:
    return answer({"message": "There is nothing of such a number."}, 404)  # larger than the store can number


@_of(ObjectDoesNotExist)
def _not_here(request: HttpRequest, missing: ObjectDoesNotExist) -> HttpResponse:
    what = str(missing).split()[0].lower() if str(missing) else "page"
    return answer({"message": f"There is no such {what}."}, 404)


ANYWHERE = {
    400: "Not readable, or not asked of this host",
    403: "Sent by another site's page",
    413: "Larger than is taken",
    503: "Too busy, or stopped at its time limit; ask again",
}
"""What any address may answer, beside what it says of itself."""


class Api(NinjaAPI):
    """The API with all of these, in its contract too."""

    def __init__(self, **given: Any) -> None:
        super().__init__(default_router=Router(by_alias=True), **given)
        for kind, say in _SAYS.items():
            self.add_exception_handler(kind, say)

    def get_openapi_schema(self, **options: Any) -> Any:
        said = super().get_openapi_schema(**options)
        body = {"application/json": {"schema": {"$ref": "#/components/schemas/Message"}}}
        for path in said["paths"].values():
            for operation in path.values():
                for status, why in ANYWHERE.items():
                    operation["responses"].setdefault(status, {"description": why, "content": body})
        return said
