"""Pictures by what is in them: they never change, so a browser asks once."""

from collections.abc import Iterator
from typing import Any

from django.http import Http404, HttpRequest, StreamingHttpResponse
from ninja import Router

from files.kept import kept_of
from files.models import Picture, Recording
from people.signed_in import member_of
from shared.problems import ProblemOut
from shared.slots import give_connection_back
from warmdraft.answers import CurvesAnswer

router = Router(tags=["files"])
_CHUNK = 64 * 1024


_REFUSED = dict.fromkeys((401, 403, 404, 409), ProblemOut)


def _sent(kept: bytes | memoryview, media_type: str) -> StreamingHttpResponse:
    """Bytes that never change; no connection to the database is held while somebody takes them slowly."""
    data = memoryview(kept)
    give_connection_back()

    def chunks() -> Iterator[bytes]:
        for start in range(0, len(data), _CHUNK):
            yield bytes(data[start : start + _CHUNK])

    answer = StreamingHttpResponse(chunks(), content_type=media_type)
    answer.headers["Content-Length"] = str(len(data))
    answer.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    answer.headers["Content-Disposition"] = "inline"
    return answer


@router.get("/photos/{sha256}", response={200: None, **_REFUSED})
def photo(request: HttpRequest, sha256: str) -> StreamingHttpResponse:
    """One picture, as JPEG."""
    return _sent(kept_of(member_of(request), Picture, sha256).content(), "image/jpeg")


@router.get("/recordings/{sha256}", response={200: None, **_REFUSED})
def recording(request: HttpRequest, sha256: str) -> StreamingHttpResponse:
    """One recording, as it came."""
    kept = kept_of(member_of(request), Recording, sha256)
    return _sent(kept.content(), kept.media_type)


@router.get("/recordings/{sha256}/curves", response={200: CurvesAnswer, **_REFUSED})
def curves(request: HttpRequest, sha256: str) -> Any:
    """What is drawn of a recording; not found until somebody has listened to it."""
    kept = kept_of(member_of(request), Recording, sha256)
    if kept.curves is None:
        raise Http404
    return kept.curves
