"""A van's stops for a calendar that reads along, by the workshop's own address and the van's."""

from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from day.calendars import of_van
from day.models import Van
from people.tokens import open_token
from upkeep.models import Feed


@require_GET
def van(request: HttpRequest, token: str, van_id: UUID) -> HttpResponse:
    """The stops of a van from today on."""
    feed = open_token(Feed, token=token)
    found = feed and Van.objects.filter(id=van_id, workshop=feed.workshop_id, removed=False).first()
    if not feed or not found:
        return HttpResponse("There is no such calendar.", status=404, content_type="text/plain")
    body = of_van(feed.workshop, found, feed.workshop.today)
    answer = HttpResponse(body, content_type="text/calendar; charset=utf-8")
    answer.headers["Cache-Control"] = "private, no-store"
    answer.headers["X-Robots-Tag"] = "noindex, nofollow"
    return answer
