"""The HTTP API: a few lines an endpoint; what they do is in `actions`, what they say in `answers`."""

from typing import Literal

from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import HttpError, ValidationError

from builds import actions, answers, schemas
from builds.answers import answer
from builds.models import Build, Design, Revision, TruckRevision
from oak_lever.api import (
    Cure,
    Effect,
    Fault,
    Hole,
    NoCrossing,
    Pulled,
    Refused,
    Settled,
    Slack,
    Units,
    Wanted,
    all_effects,
    cures,
    cycle,
    design_from,
    holes,
    pull,
    school_says,
    settle,
    slack,
)  # fmt: skip

api = NinjaAPI(title="Oak Lever", version="1", docs_url=None)

HISTORY_LINES = 200

NOT_FOUND = {404: schemas.Message}
GONE = {**NOT_FOUND, 410: schemas.Message}
REFUSED = {422: schemas.RefusedOut}


@api.get("builds", response=list[schemas.BuildOut], operation_id="list_builds")
def list_builds(request: HttpRequest) -> HttpResponse:
    heads = answers.newest_revisions()
    return answer([answers.build_data(build, heads) for build in Build.objects.prefetch_related("designs")])


@api.post("builds", response={201: schemas.BuildOut, **REFUSED}, operation_id="create_build")
def create_build(request: HttpRequest, body: schemas.BuildIn) -> HttpResponse:
    return answer(answers.build_data(actions.create_build(body.name, body.notes), {}), 201)


@api.post(
    "builds/{int:build_id}/designs",
    response={201: schemas.RevisionOut, 409: schemas.DiffersOut, **REFUSED, **NOT_FOUND},
    operation_id="import_design",
)
def import_design(request: HttpRequest, build_id: int, body: schemas.FileIn) -> HttpResponse:
    return answer(answers.head_data(actions.import_design(build_id, body.text, body.take)), 201)


@api.post(
    "builds/{int:build_id}/starts",
    response={201: schemas.RevisionOut, **REFUSED, **NOT_FOUND},
    operation_id="start_design",
)
def start_design(request: HttpRequest, build_id: int, body: schemas.StartIn) -> HttpResponse:
    sizes = actions.Measures(
        body.tire_diameter, body.track, body.wheelbase, body.rail_underside, body.rail_width
    )  # fmt: skip
    start = actions.Start(body.name, body.layout, body.school, body.use, body.end, body.increment)
    design = actions.start_design(build_id, start, sizes)
    return answer(answers.head_data(design), 201)


@api.get("builds/{int:build_id}/truck", response={200: schemas.TruckOut, **NOT_FOUND}, operation_id="get_truck")
def get_truck(request: HttpRequest, build_id: int) -> HttpResponse:
    return answer(answers.truck_answer(actions.newest_truck(Build.objects.get(pk=build_id))))


@api.get(
    "builds/{int:build_id}/truck/revisions/{int:number}",
    response={200: schemas.TruckOut, **NOT_FOUND},
    operation_id="get_truck_revision",
)
def get_truck_revision(request: HttpRequest, build_id: int, number: int) -> HttpResponse:
    return answer(answers.truck_answer(TruckRevision.objects.get(build_id=build_id, number=number)))


@api.post(
    "builds/{int:build_id}/truck/revisions",
    response={201: schemas.TruckOut, 409: schemas.TruckConflictOut, **REFUSED, **NOT_FOUND},
    operation_id="save_truck",
)
def save_truck(request: HttpRequest, build_id: int, body: schemas.TruckEditIn) -> HttpResponse:
    return answer(answers.truck_answer(actions.save_truck(build_id, body.base, body.document)), 201)


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
    return answer(answers.head_data(actions.add_alternative(design_id, body.name, body.why)), 201)


@api.get("designs/{int:design_id}", response={200: schemas.RevisionOut, **GONE}, operation_id="get_design")
def get_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(answers.head_data(actions.live(design_id).head()))


@api.delete("designs/{int:design_id}", response={204: None, **GONE}, operation_id="delete_design")
def delete_design(request: HttpRequest, design_id: int) -> HttpResponse:
    actions.delete_design(design_id)
    return HttpResponse(status=204)


@api.post(
    "designs/{int:design_id}/restore", response={200: schemas.RevisionOut, **NOT_FOUND}, operation_id="restore_design"
)
def restore_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(answers.head_data(actions.restore_design(design_id)))


@api.get(
    "designs/{int:design_id}/revisions",
    response={200: list[schemas.RevisionLine], **GONE},
    operation_id="list_revisions",
)
def list_revisions(request: HttpRequest, design_id: int) -> HttpResponse:
    newest = actions.live(design_id).revisions.order_by("-number")[: HISTORY_LINES + 1]
    return answer(answers.history_data(list(newest)[::-1])[:HISTORY_LINES])


@api.post(
    "designs/{int:design_id}/revisions",
    response={201: schemas.RevisionOut, 409: schemas.ConflictOut, **REFUSED, **GONE},
    operation_id="save_revision",
)
def save_revision(request: HttpRequest, design_id: int, body: schemas.EditIn) -> HttpResponse:
    return answer(answers.head_data(actions.save_revision(design_id, body.base, body.truck, body.document)), 201)


@api.get(
    "designs/{int:design_id}/revisions/{int:number}",
    response={200: schemas.RevisionOut, **GONE},
    operation_id="get_revision",
)
def get_revision(request: HttpRequest, design_id: int, number: int) -> HttpResponse:
    return answer(answers.stored_data(actions.live(design_id).revisions.get(number=number)))


@api.get("designs/{int:design_id}/since", response={200: schemas.SinceOut, **GONE}, operation_id="since")
def truck_since(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(answers.since_data(actions.live(design_id).head()))


@api.get("designs/{int:design_id}/file", response={200: None, **GONE}, operation_id="export_design")
def export_design(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    return _file(actions.file_text(head), "application/json", answers.file_name(head.name, head.number, "json"))


@api.get("designs/{int:design_id}/sheet.{kind}", response={200: None, **GONE}, operation_id="shop_drawing")
def shop_drawing(
    request: HttpRequest, design_id: int, kind: Literal["svg", "pdf"], units: Units = "in16"
) -> HttpResponse:
    head = actions.live(design_id).head()
    body, media = answers.sheet_of(head, kind, units)
    return _file(body, media, answers.file_name(head.name, head.number, kind), "inline")


def _file(body: str | bytes, media: str, name: str, how: str = "attachment") -> HttpResponse:
    return HttpResponse(body, content_type=media, headers={"Content-Disposition": f'{how}; filename="{name}"'})


@api.post("cycle", response={200: schemas.CycleOut, **REFUSED}, operation_id="cycle")
def run_cycle(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    cycled = cycle(design_from(body.document), here=(body.travel, body.articulation))
    return answer(answers.cycle_data(cycled))


@api.post("effects", response={200: dict[str, list[Effect]], **REFUSED}, operation_id="effects")
def find_effects(request: HttpRequest, body: schemas.EffectsIn) -> HttpResponse:
    return answer(all_effects(design_from(body.document), body.increment))


@api.post("cures", response={200: list[Cure], **REFUSED}, operation_id="cures")
def find_cures(request: HttpRequest, body: schemas.CuresIn) -> HttpResponse:
    return answer(cures(design_from(body.document), body.finding, body.increment, body.units))


@api.post("slack", response={200: list[Slack], **REFUSED}, operation_id="slack")
def find_slack(request: HttpRequest, body: schemas.SlackIn) -> HttpResponse:
    try:
        return answer(slack(design_from(body.document), body.finding, body.inputs))
    except ValueError as error:
        raise error if isinstance(error, Refused) else Refused([Fault("finding", str(error))]) from None


@api.post("school", response={200: schemas.SchoolOut, **REFUSED}, operation_id="school")
def what_school_says(request: HttpRequest, body: schemas.SchoolIn) -> HttpResponse:
    return answer({"says": school_says(design_from(body.document), body.units)})


@api.post("settle", response={200: Settled | None, **REFUSED}, operation_id="settle")
def settle_all(request: HttpRequest, body: schemas.SettleIn) -> HttpResponse:
    return answer(settle(design_from(body.document), body.increment))


@api.post("pull", response={200: Pulled, **REFUSED}, operation_id="pull")
def pull_result(request: HttpRequest, body: schemas.PullIn) -> HttpResponse:
    wanted = [Wanted(w.figure, w.travel, w.articulation, w.value) for w in body.wanted]
    try:
        return answer(pull(design_from(body.document), wanted, body.within))
    except ValueError as error:
        raise error if isinstance(error, Refused) else Refused([Fault("wanted", str(error))]) from None


@api.post("converge", response={200: list[Hole], **REFUSED}, operation_id="converge")
def converge(request: HttpRequest, body: schemas.ConvergeIn) -> HttpResponse:
    try:
        return answer(holes(design_from(body.document), body.kind, body.point, body.station))
    except NoCrossing as error:
        raise Refused([Fault("point", str(error))]) from None


@api.get("register", response=schemas.RegisterOut, operation_id="register")
def register(request: HttpRequest) -> HttpResponse:
    return answer(answers.register_data())


@api.exception_handler(Refused)
def _refused(request: HttpRequest, refusal: Refused) -> HttpResponse:
    return answer(answers.refusal_data(refusal), 422)


@api.exception_handler(ValidationError)
def _not_understood(request: HttpRequest, error: ValidationError) -> HttpResponse:
    faults = [{"path": ".".join(str(step) for step in e["loc"][2:]), "message": e["msg"]} for e in error.errors]
    return answer({"message": "; ".join(f"{f['path']}: {f['message']}" for f in faults), "faults": faults}, 422)


@api.exception_handler(HttpError)
def _not_readable(request: HttpRequest, error: HttpError) -> HttpResponse:
    return answer({"message": f"{error}.", "faults": []}, error.status_code)


@api.exception_handler(actions.Conflict)
def _conflict(request: HttpRequest, conflict: actions.Conflict) -> HttpResponse:
    newest = conflict.newest
    said = answers.truck_answer(newest) if isinstance(newest, TruckRevision) else answers.head_data(newest)  # type: ignore[arg-type]
    return answer({"message": f"Revision {newest.number} was stored meanwhile.", "newest": said}, 409)


@api.exception_handler(actions.TruckDiffers)
def _differs(request: HttpRequest, differs: actions.TruckDiffers) -> HttpResponse:
    words = ", ".join(one.words for one in differs.found)
    return answer({"message": f"The file has it otherwise: {words}.", "differences": differs.found}, 409)


@api.exception_handler(actions.Deleted)
def _gone(request: HttpRequest, deleted: actions.Deleted) -> HttpResponse:
    return answer({"message": "This design was deleted. Its revisions are kept; it can be brought back."}, 410)


def _not_here(request: HttpRequest, missing: ObjectDoesNotExist | type[ObjectDoesNotExist]) -> HttpResponse:
    what = str(missing).split()[0].lower() if str(missing) else "page"
    return answer({"message": f"There is no such {what}."}, 404)


for _kind in (Build, Design, Revision, TruckRevision):
    api.add_exception_handler(_kind.DoesNotExist, _not_here)
