"""Routes: the API, and the front end for everything else."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.urls import path, re_path

from config.api import api
from config.observe import metrics
from day import public as day
from reports import public


def front_end(request: HttpRequest) -> HttpResponse | FileResponse:
    """index.html for every address of the front end, so that a deep link opens."""
    index = settings.WEB_DIST / "index.html"
    if not index.is_file():
        return HttpResponse("The front end is not built; run ./warm start.", status=503, content_type="text/plain")
    response = FileResponse(index.open("rb"), content_type="text/html")
    response.headers["Cache-Control"] = "no-cache"
    return response


urlpatterns = [
    path("api/v1/", api.urls),
    path("metrics", metrics),
    path("paper.css", public.sheet),
    path("r/<str:token>", public.record),
    path("r/<str:token>/record.pdf", public.record_pdf),
    path("r/<str:token>/next.ics", public.next_visit),
    path("r/<str:token>/photo/<str:sha256>", public.photo),
    path("calendar/<str:token>.ics", public.calendar),
    path("calendar/<str:token>/<uuid:van_id>.ics", day.van),
    path("no-more-mail/<str:signed>", public.no_more_mail),
    re_path(r"^(?!api/|assets/|healthz)[^.]*$", front_end),
]
