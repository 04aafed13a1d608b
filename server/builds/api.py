"""The HTTP API: a few lines an endpoint; what they do is in `actions`, what they say in `answers`."""

from django.core.exceptions import ObjectDoesNotExist
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI
from ninja.errors import ValidationError

from builds import actions, schemas
from builds.answers import answer, build_data, cycle_data, newest_revisions, refusal_data, revision_data
from builds.models import Build, Design, Revision
from oak_lever.api import DesignRefused, Known, cycle, design_from, starting_design, write_design

api = NinjaAPI(title="Oak Lever", version="1", docs_url=None)

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
    design = starting_design(body.name, body.layout, body.school, known)
    return answer(revision_data(actions.import_design(build_id, write_design(design))), 201)


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
    revisions = actions.live(design_id).revisions.order_by("-number")
    return answer([{"number": r.number, "name": r.name, "stored_at": r.created_at} for r in revisions])


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
    name = "".join(char if char.isalnum() else "-" for char in head.name.lower()).strip("-") or "design"
    headers = {
        "Content-Disposition": f'attachment; filename="{name.encode("ascii", "replace").decode()}-r{head.number}.json"'
    }
    return HttpResponse(head.text, content_type="application/json", headers=headers)


@api.post("cycle", response={200: schemas.CycleOut, **REFUSED}, operation_id="cycle")
def run_cycle(request: HttpRequest, body: schemas.CycleIn) -> HttpResponse:
    return answer(cycle_data(cycle(design_from(body.document), here=(body.travel, body.articulation))))


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
