"""What a browser may do with the pages of this installation."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        # The interface's library writes its styles into the page.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
    )
)


class PageRules:
    """Every answer says that only scripts of its own may run in it and that nothing may frame it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self._get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self._get_response(request)
        response.headers.setdefault("Content-Security-Policy", POLICY)
        return response
