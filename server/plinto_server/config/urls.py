"""Routes: the API by domain; every other address is the web application."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, HttpResponseBase
from django.urls import include, path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie
from drf_spectacular.views import SpectacularAPIView

import plinto_server.schema  # noqa: F401  registers how pydantic models are described
from plinto_server.errors import not_found
from plinto_server.health import health
from plinto_server.reference import MethodList


@ensure_csrf_cookie
def web_application(request: HttpRequest) -> HttpResponseBase:
    """index.html for every address of the web application, so that deep links work."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The web application is not built; run make setup.", status=503)
    response = FileResponse(index.open("rb"), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("api/schema", SpectacularAPIView.as_view(), name="schema"),
    path("api/", include("plinto_server.apps.accounts.urls")),
    path("api/", include("plinto_server.apps.artwork.urls")),
    path("api/", include("plinto_server.apps.profiles.urls")),
    path("api/", include("plinto_server.apps.house.urls")),
    path("api/", include("plinto_server.apps.conditions.urls")),
    path("api/", include("plinto_server.apps.jobs.urls")),
    path("api/", include("plinto_server.apps.gamuts.urls")),
    path("api/", include("plinto_server.apps.paths.urls")),
    path("api/", include("plinto_server.apps.work.urls")),
    path("api/", include("plinto_server.apps.deliveries.urls")),
    path("api/", include("plinto_server.apps.builds.urls")),
    path("api/", include("plinto_server.apps.policies.urls")),
    path("api/", include("plinto_server.apps.proofs.urls")),
    path("api/", include("plinto_server.apps.questions.urls")),
    path("api/", include("plinto_server.apps.printers.urls")),
    path("api/", include("plinto_server.apps.folders.urls")),
    path("api/methods", MethodList.as_view()),
    path("api/health", health),
    re_path(r"^api(/.*)?$", not_found),
    re_path(r"^(?!assets/).*$", web_application),
]
handler404 = "plinto_server.errors.not_found"
handler500 = "plinto_server.errors.server_error"
