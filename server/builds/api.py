"""The HTTP API: a few lines an endpoint; what they do is in `actions`, what they say in `answers`. Questions to the
core are in `questions`, by area, each with its own address."""

from collections.abc import Callable
from datetime import date
from typing import Any, Literal

import orjson
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from builds import actions, answers, beside, schemas, workers
from builds.answers import answer
from builds.known_answers import KNOWN_ANSWERS
from builds.long_work import FILE_WORK, LONG_WORK, LongWork
from builds.models import Build, Notice, TruckRevision
from builds.once import Made, before, once
from builds.questions import ENDPOINTS, LONG
from builds.questions.asking import JOBS, Done, Endpoint, Watched
from builds.refusals import Api
from cutting import exchange
from oak_lever.api import Paper, Units

LEFT = "waitress.client_disconnected"
"""Where the web server says whether the asker is gone."""

NOT_FOUND = {404: schemas.Message}
GONE = {**NOT_FOUND, 410: schemas.Message}
REFUSED = {422: schemas.RefusedOut}

api = Api(title="Oak Lever", version="1", docs_url=None, openapi_url=None)


def run(request: HttpRequest, job: str, question: Any) -> Done:
    """The answer of a job, computed in a process of its own while the asker is there."""
    return workers.run(job, question, request.META.get(LEFT, workers.always_there))


def sent(said: Done) -> HttpResponse:
    return HttpResponse(said.body, status=said.status, content_type=said.media)


def made(request: HttpRequest, status: int, act: Callable[[], Made]) -> HttpResponse:
    """The answer to what changes the store: done once for each operation's number, however often it comes."""
    return told(once(request, act), status)


def told(found: Made, status: int) -> HttpResponse:
    return HttpResponse(status=204) if found is None else answer(answers.made_data(found), status)


def _put(endpoint: Endpoint) -> None:
    """The address of a question: its message is checked here, and answered elsewhere."""

    def ask(request: HttpRequest, body: Any) -> HttpResponse:
        return sent(KNOWN_ANSWERS.of(endpoint.name, request.body, lambda: run(request, endpoint.name, body)))

    ask.__annotations__["body"] = endpoint.takes
    ask.__name__ = endpoint.name
    api.post(endpoint.path, response={200: endpoint.gives, **REFUSED}, operation_id=endpoint.name)(ask)


for _one in ENDPOINTS:
    _put(_one)


def _doing(job: str) -> LongWork:
    return FILE_WORK if JOBS[job].kind == "files" else LONG_WORK


def begun(job: str, given: Any) -> HttpResponse:
    return answer({"number": _doing(job).begin(job, given)}, 202)


def _put_long(watched: Watched) -> None:
    """The addresses of long work: begun, looked at and ended."""
    path = f"work/{watched.path}"

    def begin(request: HttpRequest, body: Any) -> HttpResponse:
        return begun(watched.name, body)

    def look(request: HttpRequest, number: str) -> HttpResponse:
        return answer(answers.work_data(_doing(watched.name).look(number)))

    def end(request: HttpRequest, number: str) -> HttpResponse:
        _doing(watched.name).end(number)
        return HttpResponse(status=204)

    so_far: Any = schemas.WorkOut.__class_getitem__(watched.gives)
    addresses: list[Any] = [
        (api.get, path + "/{str:number}", look, {200: so_far, **NOT_FOUND}),
        (api.delete, path + "/{str:number}", end, {204: None, **NOT_FOUND}),
    ]
    if watched.takes is not None:
        begin.__annotations__["body"] = watched.takes
        addresses.append((api.post, path, begin, {202: schemas.BegunOut, **REFUSED}))
    for method, where, act, gives in addresses:
        act.__name__ = f"{act.__name__}_{watched.name}"
        method(where, response=gives, operation_id=act.__name__)(act)


for _watched in LONG:
    _put_long(_watched)


@api.get("builds", response={200: schemas.BuildsOut, **REFUSED}, operation_id="list_builds")
def list_builds(request: HttpRequest, find: schemas.Find = "", before: int | None = None) -> HttpResponse:
    return answer(answers.builds_page(find, before))


@api.get("builds/{int:build_id}", response={200: schemas.BuildOut, **NOT_FOUND}, operation_id="get_build")
def get_build(request: HttpRequest, build_id: int) -> HttpResponse:
    return answer(answers.builds_data([Build.objects.get(pk=build_id)])[0])


@api.post("builds", response={201: schemas.BuildOut, **REFUSED}, operation_id="create_build")
def create_build(request: HttpRequest, body: schemas.BuildIn) -> HttpResponse:
    return made(request, 201, lambda: actions.create_build(body.name, body.notes))


@api.put(
    "builds/{int:build_id}",
    response={200: schemas.BuildOut, 409: schemas.BuildConflictOut, **REFUSED, **GONE},
    operation_id="rename_build",
)
def rename_build(request: HttpRequest, build_id: int, body: schemas.RenameIn) -> HttpResponse:
    return made(request, 200, lambda: actions.rename_build(build_id, body.base, body.name, body.notes))


@api.delete(
    "builds/{int:build_id}",
    response={204: None, 409: schemas.BuildConflictOut, **REFUSED, **GONE},
    operation_id="delete_build",
)
def delete_build(request: HttpRequest, build_id: int, base: int) -> HttpResponse:
    return made(request, 204, lambda: actions.delete_build(build_id, base))


@api.post(
    "builds/{int:build_id}/restore",
    response={200: schemas.BuildOut, **REFUSED, **NOT_FOUND},
    operation_id="restore_build",
)
def restore_build(request: HttpRequest, build_id: int) -> HttpResponse:
    return made(request, 200, lambda: actions.restore_build(build_id))


@api.get("bin", response=schemas.BinOut, operation_id="list_bin")
def list_bin(request: HttpRequest) -> HttpResponse:
    return answer(answers.bin_data())


@api.post(
    "builds/{int:build_id}/designs",
    response={201: schemas.RevisionOut, 409: schemas.DiffersOut, **REFUSED, **GONE},
    operation_id="import_design",
)
def import_design(request: HttpRequest, build_id: int, body: schemas.FileIn) -> HttpResponse:
    return made(request, 201, lambda: actions.import_design(build_id, body.text, body.take))


@api.post(
    "builds/{int:build_id}/starts",
    response={201: schemas.RevisionOut, **REFUSED, **GONE},
    operation_id="start_design",
)
def start_design(request: HttpRequest, build_id: int, body: schemas.StartIn) -> HttpResponse:
    sizes = actions.Measures(
        body.tire_diameter, body.track, body.wheelbase, body.rail_underside, body.rail_width
    )  # fmt: skip
    start = actions.Start(body.name, body.layout, body.school, body.use, body.end, body.increment)
    done, before_made = before(request)
    if done:
        return told(before_made, 201)
    said = run(request, "start", actions.start_question(build_id, start, sizes))
    if said.status != 200:
        return sent(said)
    return made(request, 201, lambda: actions.store_start(build_id, orjson.loads(said.body), body.sources))


@api.get("builds/{int:build_id}/truck", response={200: schemas.TruckOut, **NOT_FOUND}, operation_id="get_truck")
def get_truck(request: HttpRequest, build_id: int) -> HttpResponse:
    return answer(answers.truck_answer(actions.newest_truck(Build.objects.get(pk=build_id))))


@api.get(
    "builds/{int:build_id}/truck/revisions/{int:number}",
    response={200: schemas.TruckOut, **NOT_FOUND},
    operation_id="get_truck_revision",
)
def get_truck_revision(request: HttpRequest, build_id: int, number: int) -> HttpResponse:
    return answer(answers.truck_answer(TruckRevision.objects.readable().get(build_id=build_id, number=number)))


@api.post(
    "builds/{int:build_id}/truck/revisions",
    response={201: schemas.TruckOut, 409: schemas.TruckConflictOut, **REFUSED, **GONE},
    operation_id="save_truck",
)
def save_truck(request: HttpRequest, build_id: int, body: schemas.TruckEditIn) -> HttpResponse:
    return made(request, 201, lambda: actions.save_truck(build_id, body.base, body.document))


@api.post(
    "builds/{int:build_id}/truck/move",
    response={201: schemas.TruckOut, 409: schemas.TruckConflictOut, **REFUSED, **GONE},
    operation_id="move_axle",
)
def move_axle(request: HttpRequest, build_id: int, body: schemas.MoveIn) -> HttpResponse:
    return made(request, 201, lambda: actions.move_axle(build_id, body.base, body.end, body.by))


@api.post(
    "builds/{int:build_id}/truck/radius",
    response={201: schemas.TruckOut, 409: schemas.TruckConflictOut, **REFUSED, **GONE},
    operation_id="set_radius",
)
def set_radius(request: HttpRequest, build_id: int, body: schemas.RadiusIn) -> HttpResponse:
    return made(
        request, 201, lambda: actions.set_radius(build_id, body.base, body.end, body.radius, body.meant, body.source)
    )


@api.get("builds/{int:build_id}/truck/file", response={200: None, **NOT_FOUND}, operation_id="export_truck")
def export_truck(request: HttpRequest, build_id: int) -> HttpResponse:
    truck = actions.newest_truck(Build.objects.get(pk=build_id))
    return _file(truck.text, "application/json", answers.file_name(truck.build.name, truck.number, "truck.json"))


@api.post(
    "designs/{int:design_id}/alternatives",
    response={201: schemas.RevisionOut, **REFUSED, **GONE},
    operation_id="add_alternative",
)
def add_alternative(request: HttpRequest, design_id: int, body: schemas.AlternativeIn) -> HttpResponse:
    return made(request, 201, lambda: actions.add_alternative(design_id, body.name, body.why))


@api.get("designs/{int:design_id}", response={200: schemas.RevisionOut, **GONE}, operation_id="get_design")
def get_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(answers.head_data(actions.live(design_id).head()))


@api.put(
    "designs/{int:design_id}/name",
    response={200: schemas.RevisionOut, 409: schemas.ConflictOut, **REFUSED, **GONE},
    operation_id="rename_design",
)
def rename_design(request: HttpRequest, design_id: int, body: schemas.DesignNameIn) -> HttpResponse:
    return made(request, 200, lambda: actions.rename_design(design_id, body.base, body.name))


@api.delete(
    "designs/{int:design_id}",
    response={204: None, 409: schemas.ConflictOut, **REFUSED, **GONE},
    operation_id="delete_design",
)
def delete_design(request: HttpRequest, design_id: int, base: int) -> HttpResponse:
    return made(request, 204, lambda: actions.delete_design(design_id, base))


@api.post(
    "designs/{int:design_id}/restore",
    response={200: schemas.RevisionOut, **REFUSED, **NOT_FOUND},
    operation_id="restore_design",
)
def restore_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return made(request, 200, lambda: actions.restore_design(design_id))


@api.get(
    "designs/{int:design_id}/revisions",
    response={200: schemas.HistoryOut, **GONE, **REFUSED},
    operation_id="list_revisions",
)
def list_revisions(request: HttpRequest, design_id: int, before: int | None = None) -> HttpResponse:
    return answer(answers.history_page(actions.live(design_id), before))


@api.post(
    "designs/{int:design_id}/revisions",
    response={201: schemas.RevisionOut, 409: schemas.ConflictOut, **REFUSED, **GONE},
    operation_id="save_revision",
)
def save_revision(request: HttpRequest, design_id: int, body: schemas.EditIn) -> HttpResponse:
    return made(request, 201, lambda: actions.save_revision(design_id, body.base, body.truck, body.document))


@api.get(
    "designs/{int:design_id}/revisions/{int:number}",
    response={200: schemas.RevisionOut, **GONE},
    operation_id="get_revision",
)
def get_revision(request: HttpRequest, design_id: int, number: int) -> HttpResponse:
    return answer(answers.stored_data(actions.live(design_id).revisions.readable().get(number=number)))


@api.get("designs/{int:design_id}/since", response={200: schemas.SinceOut, **GONE}, operation_id="since")
def truck_since(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    changed, question = answers.since_question(head)
    if not changed:
        return answer({"changes": [], "figures": []})
    figures = run(request, "since", question)
    return answer({"changes": changed, "figures": orjson.Fragment(figures.body)})


@api.get("designs/{int:design_id}/file", response={200: None, **GONE}, operation_id="export_design")
def export_design(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    return _file(actions.file_text(head), "application/json", answers.file_name(head.name, head.number, "json"))


@api.get("designs/{int:design_id}/sheet.{kind}", response={200: None, **REFUSED, **GONE}, operation_id="shop_drawing")
def shop_drawing(
    request: HttpRequest, design_id: int, kind: Literal["svg", "pdf"], units: Units = "in16", paper: Paper = "a3"
) -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "sheet", {**answers.sheet_question(head), "kind": kind, "units": units, "paper": paper})
    return _file(said.body, said.media, answers.file_name(head.name, head.number, kind), "inline")


@api.get(
    "designs/{int:design_id}/engineer.pdf", response={200: None, **REFUSED, **GONE}, operation_id="engineers_sheet"
)
def engineers_sheet(request: HttpRequest, design_id: int, units: Units = "in16", paper: Paper = "a4") -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "engineer", {**answers.sheet_question(head), "units": units, "paper": paper})
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "pdf"), "inline")


@api.get("designs/{int:design_id}/fit-up.pdf", response={200: None, **REFUSED, **GONE}, operation_id="fit_up_sheet")
def fit_up_sheet(
    request: HttpRequest, design_id: int, units: Units = "in16", paper: Paper = "a4", today: date | None = None
) -> HttpResponse:
    head = actions.live(design_id).head()
    asked = {**answers.fit_question(head), "units": units, "paper": paper, "today": today or timezone.localdate()}
    said = run(request, "fit_sheet", asked)
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "pdf"), "inline")


@api.post(
    "designs/{int:design_id}/shop", response={202: schemas.BegunOut, **REFUSED, **GONE}, operation_id="begin_shop_files"
)
def begin_shop_files(request: HttpRequest, design_id: int, body: schemas.ShopFilesIn) -> HttpResponse:
    """Begin the archive of `shop.zip`, to be looked at under the number that is answered."""
    question = _to_shop(design_id, body.revision)[1]
    return begun("shop_files", {**question, "units": body.units, "paper": body.paper})


@api.get("designs/{int:design_id}/shop.zip", response={200: None, **REFUSED, **GONE}, operation_id="shop_files")
def shop_files(
    request: HttpRequest,
    design_id: int,
    units: Units = "in16",
    paper: Paper = "a4",
    revision: schemas.Number | None = None,
) -> HttpResponse:
    """Of the newest revision on the truck as it is; or of another, on the truck that it was stored on."""
    name, question = _to_shop(design_id, revision)
    said = run(request, "shop", {**question, "units": units, "paper": paper})
    return _file(said.body, said.media, name)


def _to_shop(design_id: int, revision: int | None) -> tuple[str, dict[str, Any]]:
    """The name of a revision's archive, and what it is made from."""
    design = actions.live(design_id)
    head = design.head() if revision is None else design.revisions.readable().get(number=revision)
    return answers.file_name(head.name, head.number, "zip"), answers.sheet_question(head, revision is not None)


@api.get("designs/{int:design_id}/cycle.csv", response={200: None, **GONE}, operation_id="cycle_rows")
def cycle_rows(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "rows", answers.rows_question(head))
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "csv"))


def _file(body: str | bytes, media: str, name: str, how: str = "attachment") -> HttpResponse:
    return HttpResponse(body, content_type=media, headers={"Content-Disposition": f'{how}; filename="{name}"'})


@api.get("designs/{int:design_id}/room.dxf", response={200: None, **GONE}, operation_id="room_drawing")
def room_drawing(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "drawing", answers.sheet_question(head))
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "dxf"))


@api.get("instruments", response=schemas.InstrumentsOut, operation_id="instruments")
def instruments_there(request: HttpRequest) -> HttpResponse:
    return answer(beside.instruments())


@api.post(
    "instruments/read",
    response={200: schemas.ReadOut, 409: schemas.Message, **REFUSED},
    operation_id="read_instrument",
)
def read_instrument(request: HttpRequest, body: schemas.ReadIn) -> HttpResponse:
    return answer(beside.read_instrument(body.instrument, body.what))


@api.post(
    "instruments/zero",
    response={204: None, 409: schemas.Message, **REFUSED},
    operation_id="zero_gauge",
)
def zero_gauge(request: HttpRequest, body: schemas.ZeroIn) -> HttpResponse:
    beside.zero_gauge(body.on)
    return HttpResponse(status=204)


@api.get("cutting", response=schemas.CuttingOut, operation_id="cutting")
def cutting(request: HttpRequest) -> HttpResponse:
    return answer({"there": beside.cutting_service()})


@api.post(
    "designs/{int:design_id}/cutting",
    response={200: exchange.Quote, 409: schemas.Message, **REFUSED, **GONE},
    operation_id="quote_cutting",
)
def quote_cutting(request: HttpRequest, design_id: int, body: schemas.ToCutIn) -> HttpResponse:
    """What the cutting service says of the newest revision's archive."""
    question = answers.sheet_question(actions.live(design_id).head())
    said = run(request, "shop", {**question, "units": body.units, "paper": body.paper})
    return sent(said) if said.status != 200 else answer(beside.quoted(said.body).model_dump(mode="json"))


@api.post(
    "cutting/order",
    response={200: exchange.State, 409: schemas.Message, **REFUSED},
    operation_id="order_cutting",
)
def order_cutting(request: HttpRequest, body: schemas.CuttingJobIn) -> HttpResponse:
    return answer(beside.ordered(body.job).model_dump(mode="json"))


@api.post(
    "cutting/state",
    response={200: exchange.State, 409: schemas.Message, **REFUSED},
    operation_id="cutting_state",
)
def cutting_state(request: HttpRequest, body: schemas.CuttingJobIn) -> HttpResponse:
    return answer(beside.job_state(body.job).model_dump(mode="json"))


@api.get("register", response=schemas.RegisterOut, operation_id="register")
def register(request: HttpRequest) -> HttpResponse:
    return answer(answers.register_data())


@api.get("health", response=schemas.HealthOut, operation_id="health")
def health(request: HttpRequest) -> HttpResponse:
    return answer(answers.health_data())


@api.delete("notices/{int:notice_id}", response={204: None, **NOT_FOUND}, operation_id="put_away_notice")
def put_away_notice(request: HttpRequest, notice_id: int) -> HttpResponse:
    Notice.objects.get(pk=notice_id).delete()
    return HttpResponse(status=204)
