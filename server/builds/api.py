"""The HTTP API: a few lines an endpoint; what they do is in `actions`, what they say in `answers`."""

from dataclasses import asdict
from typing import Literal

from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import ValidationError

from builds import actions, schemas
from builds.answers import (
    answer,
    build_data,
    cures_data,
    cycle_data,
    effects_data,
    file_name,
    history_data,
    house_data,
    newest_revisions,
    pull_data,
    refusal_data,
    revision_data,
    sheet_of,
)  # fmt: skip
from builds.models import Build, Design, Revision
from oak_lever.api import (
    DesignRefused,
    Fault,
    Known,
    NoCrossing,
    Wanted,
    cures,
    cycle,
    design_from,
    effects,
    holes,
    pull,
    settle,
    starting_design,
    write_design,
)  # fmt: skip
from oak_lever.units import Units

api = NinjaAPI(title="Oak Lever", version="1", docs_url=None)

HISTORY_LINES = 200

NOT_FOUND = {404: schemas.Message}
GONE = {**NOT_FOUND, 410: schemas.Message}
REFUSED = {422: schemas.RefusedOut}


@api.get("builds", response=list[schemas.BuildOut], operation_id="list_builds")
def list_builds(request: HttpRequest) -> HttpResponse:
    heads = newest_revisions()
    return answer([build_data(build, heads) for build in Build.objects.prefetch_related("designs")])


@api.post("builds", response={201: schemas.BuildOut, **REFUSED}, operation_id="create_build")
def create_build(request: HttpRequest, body: schemas.BuildIn) -> HttpResponse:
    return answer(build_data(actions.create_build(body.name, body.notes), {}), 201)


@api.post(
    "builds/{int:build_id}/designs",
    response={201: schemas.RevisionOut, **REFUSED, **NOT_FOUND},
    operation_id="import_design",
)
def import_design(request: HttpRequest, build_id: int, body: schemas.FileIn) -> HttpResponse:
    return answer(revision_data(actions.import_design(build_id, body.text)), 201)


@api.post(
    "builds/{int:build_id}/starts",
    response={201: schemas.RevisionOut, **REFUSED, **NOT_FOUND},
    operation_id="start_design",
)
def start_design(request: HttpRequest, build_id: int, body: schemas.StartIn) -> HttpResponse:
    known = Known(body.end, body.tire_diameter, body.track, body.wheelbase, body.rail_underside, body.rail_width)
    design = starting_design(body.name, body.layout, body.school, known, body.use)
    return answer(revision_data(actions.import_design(build_id, write_design(design))), 201)


@api.put(
    "builds/{int:build_id}/bands",
    response={200: schemas.BandsOut, **REFUSED, **NOT_FOUND},
    operation_id="set_bands",
)
def set_bands(request: HttpRequest, build_id: int, body: schemas.BandsIn) -> HttpResponse:
    return answer({"bands": actions.set_bands(build_id, body.bands).bands})


@api.post(
    "designs/{int:design_id}/alternatives",
    response={201: schemas.RevisionOut, **REFUSED, **GONE},
    operation_id="add_alternative",
)
def add_alternative(request: HttpRequest, design_id: int, body: schemas.AlternativeIn) -> HttpResponse:
    return answer(revision_data(actions.add_alternative(design_id, body.name, body.why)), 201)


@api.get("designs/{int:design_id}", response={200: schemas.RevisionOut, **GONE}, operation_id="get_design")
def get_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(revision_data(actions.live(design_id).head()))


@api.delete("designs/{int:design_id}", response={204: None, **GONE}, operation_id="delete_design")
def delete_design(request: HttpRequest, design_id: int) -> HttpResponse:
    actions.delete_design(design_id)
    return HttpResponse(status=204)


@api.post(
    "designs/{int:design_id}/restore", response={200: schemas.RevisionOut, **NOT_FOUND}, operation_id="restore_design"
)
def restore_design(request: HttpRequest, design_id: int) -> HttpResponse:
    return answer(revision_data(actions.restore_design(design_id)))


@api.get(
    "designs/{int:design_id}/revisions",
    response={200: list[schemas.RevisionLine], **GONE},
    operation_id="list_revisions",
)
def list_revisions(request: HttpRequest, design_id: int) -> HttpResponse:
    newest = actions.live(design_id).revisions.order_by("-number")[: HISTORY_LINES + 1]
    return answer(history_data(list(newest)[::-1])[:HISTORY_LINES])


@api.post(
    "designs/{int:design_id}/revisions",
    response={201: schemas.RevisionOut, 409: schemas.ConflictOut, **REFUSED, **GONE},
    operation_id="save_revision",
)
def save_revision(request: HttpRequest, design_id: int, body: schemas.EditIn) -> HttpResponse:
    return answer(revision_data(actions.save_revision(design_id, body.base, body.document)), 201)


@api.get(
    "designs/{int:design_id}/revisions/{int:number}",
    response={200: schemas.RevisionOut, **GONE},
    operation_id="get_revision",
)
def get_revision(request: HttpRequest, design_id: int, number: int) -> HttpResponse:
    return answer(revision_data(actions.live(design_id).revisions.get(number=number)))


@api.get("designs/{int:design_id}/file", response={200: None, **GONE}, operation_id="export_design")
def export_design(request: HttpRequest, design_id: int) -> HttpResponse:
    head = actions.live(design_id).head()
    headers = {"Content-Disposition": f'attachment; filename="{file_name(head, "json")}"'}
    return HttpResponse(actions.file_text(head), content_type="application/json", headers=headers)


@api.get("designs/{int:design_id}/sheet.{kind}", response={200: None, **GONE}, operation_id="shop_drawing")
def shop_drawing(
    request: HttpRequest, design_id: int, kind: Literal["svg", "pdf"], units: Units = "in16"
) -> HttpResponse:
    head = actions.live(design_id).head()
    body, media = sheet_of(head, kind, units)
    headers = {"Content-Disposition": f'inline; filename="{file_name(head, kind)}"'}
    return HttpResponse(body, content_type=media, headers=headers)


@api.post("cycle", response={200: schemas.CycleOut, **REFUSED}, operation_id="cycle")
def run_cycle(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    cycled = cycle(design_from(body.document), here=(body.travel, body.articulation))
    return answer(cycle_data(cycled, body.bands))


@api.post("effects", response={200: list[schemas.EffectOut], **REFUSED}, operation_id="effects")
def find_effects(request: HttpRequest, body: schemas.EffectsIn) -> HttpResponse:
    return answer(effects_data(effects(design_from(body.document), body.figure, body.increment)))


@api.post("cures", response={200: list[schemas.CureOut], **REFUSED}, operation_id="cures")
def find_cures(request: HttpRequest, body: schemas.CuresIn) -> HttpResponse:
    return answer(cures_data(cures(design_from(body.document), body.finding, body.increment, body.bands)))


@api.post("settle", response={200: schemas.SettledOut | None, **REFUSED}, operation_id="settle")
def settle_all(request: HttpRequest, body: schemas.SettleIn) -> HttpResponse:
    settled = settle(design_from(body.document), body.increment, body.bands)
    return answer(None if settled is None else asdict(settled))


@api.post("pull", response={200: schemas.PullOut, **REFUSED}, operation_id="pull")
def pull_result(request: HttpRequest, body: schemas.PullIn) -> HttpResponse:
    wanted = [Wanted(w.figure, w.travel, w.articulation, w.value) for w in body.wanted]
    try:
        return answer(pull_data(pull(design_from(body.document), wanted, body.within)))
    except ValueError as error:
        raise DesignRefused([Fault("wanted", str(error))]) from None


@api.post("converge", response={200: list[schemas.HoleOut], **REFUSED}, operation_id="converge")
def converge(request: HttpRequest, body: schemas.ConvergeIn) -> HttpResponse:
    try:
        found = holes(design_from(body.document), body.kind, body.point, body.station)
    except NoCrossing as error:
        raise DesignRefused([Fault("point", str(error))]) from None
    return answer([{"link": link, "at": at, "length": length} for link, (at, length) in found.items()])


@api.get("house", response=schemas.HouseOut, operation_id="house")
def house(request: HttpRequest) -> HttpResponse:
    return answer(house_data())


@api.exception_handler(DesignRefused)
def _refused(request: HttpRequest, refusal: DesignRefused) -> HttpResponse:
    return answer(refusal_data(refusal), 422)


@api.exception_handler(ValidationError)
def _not_understood(request: HttpRequest, error: ValidationError) -> HttpResponse:
    faults = [{"path": ".".join(str(step) for step in e["loc"][2:]), "message": e["msg"]} for e in error.errors]
    return answer({"message": "; ".join(f"{f['path']}: {f['message']}" for f in faults), "faults": faults}, 422)


@api.exception_handler(actions.Conflict)
def _conflict(request: HttpRequest, conflict: actions.Conflict) -> HttpResponse:
    message = f"Revision {conflict.newest.number} was stored meanwhile."
    return answer({"message": message, "newest": revision_data(conflict.newest)}, 409)


@api.exception_handler(actions.Deleted)
def _gone(request: HttpRequest, deleted: actions.Deleted) -> HttpResponse:
    return answer({"message": "This design was deleted. Its revisions are kept; it can be brought back."}, 410)


def _not_here(request: HttpRequest, missing: ObjectDoesNotExist | type[ObjectDoesNotExist]) -> HttpResponse:
    what = str(missing).split()[0].lower() if str(missing) else "page"
    return answer({"message": f"There is no such {what}."}, 404)


for _kind in (Build, Design, Revision):
    api.add_exception_handler(_kind.DoesNotExist, _not_here)
