"""The HTTP API: a few lines an endpoint; what they do is in `actions`, what they say in `answers`, sums in `jobs`."""

from collections.abc import Callable
from typing import Any, Literal

import orjson
from django.http import HttpRequest, HttpResponse

from builds import actions, answers, corners, room, schemas, whole, workers
from builds.answers import answer
from builds.jobs import Done
from builds.message import Schema
from builds.models import Build, Notice, TruckRevision
from builds.once import Made, before, once
from builds.refusals import Api
from oak_lever.api import (
    Cure,
    Effect,
    Explained,
    Gap,
    HandCheck,
    Hole,
    Onto,
    Paper,
    Pulled,
    Ranked,
    RunPulled,
    Settled,
    Slack,
    Station,
    Units,
    Variant,
    Wanted,
)

LEFT = "waitress.client_disconnected"
"""Where the web server says whether the asker is gone."""

NOT_FOUND = {404: schemas.Message}
GONE = {**NOT_FOUND, 410: schemas.Message}
REFUSED = {422: schemas.RefusedOut}

api = Api(title="Oak Lever", version="1", docs_url=None, openapi_url=None)


def run(request: HttpRequest, job: str, question: dict[str, Any]) -> Done:
    """The answer of a job, computed in a process of its own while the asker is there."""
    return workers.run(job, question, request.META.get(LEFT, workers.always_there))


def sent(said: Done) -> HttpResponse:
    return HttpResponse(said.body, status=said.status, content_type=said.media)


def made(request: HttpRequest, status: int, act: Callable[[], Made]) -> HttpResponse:
    """The answer to what changes the store: done once for each operation's number, however often it comes."""
    return told(once(request, act), status)


def told(found: Made, status: int) -> HttpResponse:
    return HttpResponse(status=204) if found is None else answer(answers.made_data(found), status)


def computed(request: HttpRequest, job: str, body: Schema) -> HttpResponse:
    return sent(run(request, job, vars(body)))


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


@api.get("designs/{int:design_id}/cycle.csv", response={200: None, **GONE}, operation_id="cycle_rows")
def cycle_rows(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "rows", answers.rows_question(head))
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "csv"))


def _file(body: str | bytes, media: str, name: str, how: str = "attachment") -> HttpResponse:
    return HttpResponse(body, content_type=media, headers={"Content-Disposition": f'{how}; filename="{name}"'})


@api.post("cycle", response={200: schemas.CycleOut, **REFUSED}, operation_id="cycle")
def run_cycle(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    return computed(request, "cycle", body)


@api.post("look", response={200: schemas.LookOut, **REFUSED}, operation_id="look")
def look_at_one_pose(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    return computed(request, "look", body)


@api.post("effects", response={200: dict[str, list[Effect]], **REFUSED}, operation_id="effects")
def find_effects(request: HttpRequest, body: schemas.EffectsIn) -> HttpResponse:
    return computed(request, "effects", body)


@api.post("cures", response={200: list[Cure], **REFUSED}, operation_id="cures")
def find_cures(request: HttpRequest, body: schemas.CuresIn) -> HttpResponse:
    return computed(request, "cures", body)


@api.post("slack", response={200: list[Slack], **REFUSED}, operation_id="slack")
def find_slack(request: HttpRequest, body: schemas.SlackIn) -> HttpResponse:
    return computed(request, "slack", body)


@api.post("school", response={200: schemas.SchoolOut, **REFUSED}, operation_id="school")
def what_school_says(request: HttpRequest, body: schemas.SchoolIn) -> HttpResponse:
    return computed(request, "school", body)


@api.post("settle", response={200: Settled | None, **REFUSED}, operation_id="settle")
def settle_all(request: HttpRequest, body: schemas.SettleIn) -> HttpResponse:
    return computed(request, "settle", body)


@api.post("pull", response={200: Pulled, **REFUSED}, operation_id="pull")
def pull_result(request: HttpRequest, body: schemas.PullIn) -> HttpResponse:
    wanted = [Wanted(**vars(one)) for one in body.wanted]
    return sent(run(request, "pull", {**vars(body), "wanted": wanted}))


@api.post("converge", response={200: list[Hole], **REFUSED}, operation_id="converge")
def converge(request: HttpRequest, body: schemas.ConvergeIn) -> HttpResponse:
    return computed(request, "converge", body)


@api.post("layout", response={200: schemas.LayoutOut, **REFUSED}, operation_id="change_layout")
def change_layout(request: HttpRequest, body: schemas.LayoutIn) -> HttpResponse:
    return sent(run(request, "layout", {**vars(body), "change": body.change.model_dump()}))


@api.post("clear", response={200: schemas.ClearOut, **REFUSED}, operation_id="clear")
def clear(request: HttpRequest, body: schemas.ClearIn) -> HttpResponse:
    return computed(request, "clear", body)


@api.post("gaps", response={200: list[Gap], **REFUSED}, operation_id="gaps")
def gaps_in_one_pose(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    return computed(request, "gaps", body)


@api.post("places", response={200: list[Ranked], **REFUSED}, operation_id="places")
def rank_places(request: HttpRequest, body: room.PlacesIn) -> HttpResponse:
    return computed(request, "places", body)


@api.post("room", response={200: room.RoomOut, **REFUSED}, operation_id="room")
def room_of_an_axle(request: HttpRequest, body: room.RoomIn) -> HttpResponse:
    return computed(request, "room", body)


@api.post("stations", response={200: list[Station], **REFUSED}, operation_id="stations")
def other_stations(request: HttpRequest, body: room.StationsIn) -> HttpResponse:
    return computed(request, "stations", body)


@api.post("bring", response={200: room.BroughtOut, **REFUSED}, operation_id="bring")
def bring_a_shape(request: HttpRequest, body: room.BringIn) -> HttpResponse:
    return computed(request, "bring", body)


@api.post("copy", response={200: room.CopiedOut, **REFUSED}, operation_id="copy_onto")
def copy_onto_another_housing(request: HttpRequest, body: room.CopyIn) -> HttpResponse:
    return sent(run(request, "copy", {**vars(body), "onto": Onto(**vars(body.onto))}))


@api.post("corners", response={200: corners.CornersOut, **REFUSED}, operation_id="corners")
def corners_of_an_axle(request: HttpRequest, body: corners.CornersIn) -> HttpResponse:
    return sent(run(request, "corners", {**vars(body), "loads": [one.load() for one in body.loads]}))


@api.post("shocks/places", response={200: list[Cure], **REFUSED}, operation_id="shock_places")
def places_for_a_shock(request: HttpRequest, body: corners.ShockPlacesIn) -> HttpResponse:
    return computed(request, "shock_places", body)


@api.post("runs/pull", response={200: RunPulled, **REFUSED}, operation_id="run_pull")
def pull_what_runs(request: HttpRequest, body: corners.RunPullIn) -> HttpResponse:
    return sent(run(request, "run_pull", {**vars(body), "wanted": [one.want() for one in body.wanted]}))


@api.post("runs/effects", response={200: list[Effect], **REFUSED}, operation_id="run_effects")
def what_moves_what_runs(request: HttpRequest, body: corners.RunEffectsIn) -> HttpResponse:
    return computed(request, "run_effects", body)


@api.post("shaft/turn", response={200: whole.TurnOut, **REFUSED}, operation_id="turn_pinion")
def turn_a_pinion(request: HttpRequest, body: whole.TurnIn) -> HttpResponse:
    return computed(request, "turn", body)


@api.post("map", response={200: whole.MapOut, **REFUSED}, operation_id="whole_map")
def map_of_the_cycle(request: HttpRequest, body: whole.MapIn) -> HttpResponse:
    return computed(request, "map", body)


@api.post("schools", response={200: list[Variant], **REFUSED}, operation_id="schools")
def schools_side_by_side(request: HttpRequest, body: whole.InWords) -> HttpResponse:
    return computed(request, "schools", body)


@api.post("joints", response={200: whole.JointsOut, **REFUSED}, operation_id="joints")
def every_joint(request: HttpRequest, body: whole.OfDocument) -> HttpResponse:
    return computed(request, "joints", body)


@api.post("hand", response={200: HandCheck, **REFUSED}, operation_id="hand_check")
def check_a_hand_cycle(request: HttpRequest, body: whole.InWords) -> HttpResponse:
    return computed(request, "hand", body)


@api.post("complaints", response={200: list[Explained], **REFUSED}, operation_id="complaints")
def what_would_explain_it(request: HttpRequest, body: whole.OfDocument) -> HttpResponse:
    return computed(request, "complaints", body)


@api.get("designs/{int:design_id}/room.dxf", response={200: None, **GONE}, operation_id="room_drawing")
def room_drawing(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    said = run(request, "drawing", answers.sheet_question(head))
    return _file(said.body, said.media, answers.file_name(head.name, head.number, "dxf"))


@api.get("instruments", response=schemas.InstrumentsOut, operation_id="instruments")
def instruments_there(request: HttpRequest) -> HttpResponse:
    return answer(actions.instruments())


@api.post(
    "instruments/read",
    response={200: schemas.ReadOut, 409: schemas.Message, **REFUSED},
    operation_id="read_instrument",
)
def read_instrument(request: HttpRequest, body: schemas.ReadIn) -> HttpResponse:
    return answer(actions.read_instrument(body.instrument, body.what))


@api.post(
    "instruments/zero",
    response={204: None, 409: schemas.Message, **REFUSED},
    operation_id="zero_gauge",
)
def zero_gauge(request: HttpRequest, body: schemas.ZeroIn) -> HttpResponse:
    actions.zero_gauge(body.on)
    return HttpResponse(status=204)


@api.post("baseline", response={200: schemas.BaselineOut, **REFUSED}, operation_id="baseline")
def baseline(request: HttpRequest, body: schemas.BaselineIn) -> HttpResponse:
    return computed(request, "baseline", body)


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
