"""The front door: what a page may do with us, and what is too much to take in. A page of another site may not write
here through the browser of someone in the shop.
"""

from collections.abc import Callable
from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse

SAFE = {"GET", "HEAD", "OPTIONS"}

# styles are put in by the page's own script; everything else is files of this server
POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; object-src 'none'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def front_door(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse a body beyond the bound, in the API's own words, before it is read; say what a page may load, and
    how long each answer is."""

    def guard(request: HttpRequest) -> HttpResponse:
        most = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        length = request.META.get("CONTENT_LENGTH") or "0"
        if most is not None and length.isdigit() and int(length) > most:
            said = f"That is {int(length) / 1e6:.1f} MB; {most / 1e6:.0f} MB are taken at most. Nothing was changed."
            response: HttpResponse = JsonResponse({"message": said, "faults": []}, status=413)
        else:
            response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        if not response.streaming:  # whose end is known need not end the connection
            response.headers.setdefault("Content-Length", str(len(response.content)))
        return response

    return guard


def same_origin(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse a write whose Origin is not the host it is sent to."""

    def guard(request: HttpRequest) -> HttpResponse:
        host = request.get_host()  # refuses a host name that is not ours, and so a name rebound to this machine
        origin = request.headers.get("Origin")
        if request.method not in SAFE and origin and urlsplit(origin).netloc != host:
            return JsonResponse({"message": "Refused: this came from another site's page."}, status=403)
        return get_response(request)

    return guard
