"""The front door: what a page may do with us, and what is too much to take in. A page of another site may not write
here through the browser of someone in the shop.
"""

import hashlib
import itertools
import logging
import re
import time
import traceback
from collections.abc import Callable
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings
from django.core.exceptions import DisallowedHost
from django.http import HttpRequest, HttpResponse, JsonResponse

NUMBER = "oak_lever.request_number"
SAFE = {"GET", "HEAD", "OPTIONS"}

# styles are put in by the page's own script; everything else is files of this server
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def too_large(path: str, length: int) -> str | None:
    """What is said of a body of so many bytes for an address; None where it may come in."""
    most = settings.MOST_BYTES_AT.get(path, settings.MOST_BYTES)
    if length <= most:
        return None
    return f"That is {length / 1e6:.1f} MB; {most / 1e6:.0f} MB are taken at most. Nothing was changed."


def front_door(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse a body beyond the bound, in the API's own words, before it is read; say what a page may load, and
    how long each answer is."""

    def guard(request: HttpRequest) -> HttpResponse:
        length = request.META.get("CONTENT_LENGTH") or "0"
        said = too_large(request.path, int(length)) if length.isdigit() else None
        if said:
            response: HttpResponse = JsonResponse({"message": said, "faults": []}, status=413)
        else:
            response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        if not response.streaming:  # whose end is known need not end the connection
            response.headers.setdefault("Content-Length", str(len(response.content)))
        return response

    return guard


def methods(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """HEAD wherever GET is answered, the same without its body; and what an address does not take, refused in the API's
    own words."""

    def guard(request: HttpRequest) -> HttpResponse:
        head = request.method == "HEAD"
        if head:
            request.method = request.META["REQUEST_METHOD"] = "GET"
        response = get_response(request)
        if response.status_code == 405:
            said = f"This address does not take {'HEAD' if head else request.method}."
            takes = ", ".join(sorted(response.headers.get("Allow", "").split(", ")))
            if takes:
                said = f"{said} It takes {takes}."
            refused = JsonResponse({"message": said, "faults": []}, status=405)
            if takes:
                refused["Allow"] = takes
            response = refused
        if not head:
            return response
        length = response.headers.get("Content-Length")
        bare = HttpResponse(status=response.status_code, headers=dict(response.items()))
        if length is None and not response.streaming:
            length = str(len(response.content))
        if length is not None:
            bare["Content-Length"] = length
        response.close()
        return bare

    return guard


def own_host(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse what is asked of a host name that is not ours, and so of a name rebound to this machine; and a write whose
    Origin is not the host it is sent to."""

    def guard(request: HttpRequest) -> HttpResponse:
        try:
            host = request.get_host()
        except DisallowedHost:
            said = "This server does not go by that name. To let it, start it with OAK_LEVER_HOSTS set to the name."
            return JsonResponse({"message": said}, status=400)
        origin = request.headers.get("Origin")
        if request.method not in SAFE and origin and urlsplit(origin).netloc != host:
            return JsonResponse({"message": "Refused: this came from another site's page."}, status=403)
        return get_response(request)

    return guard


_log = logging.getLogger("oak_lever.requests")
_PARAMETER = re.compile(r"<(?:\w+:)?(\w+)>")
_numbers = itertools.count(1)


def logged(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Number each request, and log what was asked, what was answered and how long it took: by numbers and addresses of
    the API, never by what a document, a search or a name says."""

    page = _served_page()

    def guard(request: HttpRequest) -> HttpResponse:
        number, begun = next(_numbers), time.perf_counter()
        request.META[NUMBER] = str(number)
        response = get_response(request)
        ms = (time.perf_counter() - begun) * 1e3
        _log.info("#%d %s %s %d %.0f ms", number, request.method, _place(request), response.status_code, ms)
        response["X-Request-Number"] = str(number)
        if page:
            response["X-Oak-Lever-Page"] = page
        return response

    return guard


def _served_page() -> str:
    """What tells this built page from another, for tabs that still have an older one; empty where none is built."""
    built = settings.PAGE / "index.html"
    return hashlib.sha256(built.read_bytes()).hexdigest()[:12] if built.is_file() else ""


def _place(request: HttpRequest) -> str:
    match = request.resolver_match
    if match is None or not match.route.startswith("api/"):
        return "(file or page)" if match is not None or not request.path.startswith("/api/") else "(nothing there)"
    numbers = {name: value for name, value in match.kwargs.items() if isinstance(value, int)}
    return _PARAMETER.sub(lambda found: str(numbers.get(found[1], "*")), match.route)


def nowhere(request: HttpRequest, exception: Exception) -> HttpResponse:
    return JsonResponse({"message": "Nothing stands at this address."}, status=404)


def broken(request: HttpRequest) -> HttpResponse:
    """For what nobody foresaw: the number under which the log has it."""
    number = request.META.get(NUMBER, "?")
    said = f"Something went wrong in the server that nobody foresaw. Its log has it as request {number}."
    return JsonResponse({"message": said, "faults": []}, status=500)


class WithoutValues(logging.Formatter):
    """Log lines with their time; of an error its kind and where it was, not the values that it speaks of."""

    def formatException(self, ei: Any) -> str:  # noqa: N802 -- the library's name
        kind, _, trace = ei
        return "".join(traceback.format_tb(trace)) + (kind.__name__ if kind else "")
