"""The API, and the page for every other address: the page itself knows its areas."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseNotAllowed
from django.urls import path, re_path

from builds.api import api

CONTRACT = settings.ROOT / "server" / "contract" / "openapi.json"
"""What the API takes and answers, written by `make contract`."""


def contract(request: HttpRequest) -> HttpResponse | FileResponse:
    if request.method != "GET":
        return HttpResponseNotAllowed(["GET"])
    return FileResponse(CONTRACT.open("rb"), content_type="application/json")


def page(request: HttpRequest) -> HttpResponse | FileResponse:
    if request.method != "GET":
        return HttpResponseNotAllowed(["GET"])
    built = settings.PAGE / "index.html"
    if not built.is_file():
        return HttpResponse("The page is not built yet: run make build.", status=503, content_type="text/plain")
    return FileResponse(built.open("rb"), content_type="text/html; charset=utf-8")


handler404 = "config.guard.nowhere"
handler500 = "config.guard.broken"
urlpatterns = [path("api/openapi.json", contract), path("api/", api.urls), re_path(r"^(?!api/|assets/)[^.]*$", page)]
