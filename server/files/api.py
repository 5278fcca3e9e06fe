"""Pictures by what is in them: they never change, so a browser asks once."""

from collections.abc import Iterator

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Router

from files.pictures import picture_of
from people.signed_in import member_of
from shared.problems import ProblemOut
from shared.slots import give_connection_back

router = Router(tags=["files"])
_CHUNK = 64 * 1024


@router.get("/photos/{sha256}", response={200: None, **dict.fromkeys((401, 403, 404, 409), ProblemOut)})
def photo(request: HttpRequest, sha256: str) -> StreamingHttpResponse:
    """One picture, as JPEG."""
    picture = picture_of(member_of(request), sha256)
    data = memoryview(picture.data)
    give_connection_back()  # whoever takes it slowly needs none

    def chunks() -> Iterator[bytes]:
        for start in range(0, len(data), _CHUNK):
            yield bytes(data[start : start + _CHUNK])

    answer = StreamingHttpResponse(chunks(), content_type="image/jpeg")
    answer.headers["Content-Length"] = str(picture.size)
    answer.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    answer.headers["Content-Disposition"] = "inline"
    return answer
