"""A page of another site may not write here through the browser of someone in the shop."""

from collections.abc import Callable
from urllib.parse import urlsplit

from django.http import HttpRequest, HttpResponse, JsonResponse

SAFE = {"GET", "HEAD", "OPTIONS"}


def same_origin(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Refuse a write whose Origin is not the host it is sent to."""

    def guard(request: HttpRequest) -> HttpResponse:
        host = request.get_host()  # refuses a host name that is not ours, and so a name rebound to this machine
        origin = request.headers.get("Origin")
        if request.method not in SAFE and origin and urlsplit(origin).netloc != host:
            return JsonResponse({"message": "Refused: this came from another site's page."}, status=403)
        return get_response(request)

    return guard
