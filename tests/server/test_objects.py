"""Pictures and recordings in a store of objects: kept there, read from there, carried over, let go."""

import io
import uuid
from datetime import timedelta

import pytest
from django.core.management import CommandError, call_command
from django.utils import timezone
from tests.server.factories import AT, a_technician
from tests.server.test_bundle import attached, picture

from files.models import Picture, Recording
from jobs.models import Photo
from jobs.tasks import sweep
from people.models import Role
from whole import leaving
from whole.bring import bring_in
from whole.models import Leaving
from whole.out import write_out

pytestmark = pytest.mark.django_db


@pytest.fixture
def folder(settings, tmp_path):
    settings.OBJECTS = f"file://{tmp_path}/objects"
    return tmp_path / "objects"


def lying(folder):
    return {str(path.relative_to(folder)) for path in folder.rglob("*") if path.is_file()}


def shown(who, job):
    (photo,) = who.get(f"/jobs/{job}").json()["photos"]
    return who.client.get(photo["url"])


def test_what_is_sent_lies_in_the_store_and_is_shown_from_there(folder):
    who = a_technician()
    job = who.opens()
    attached(who, job)
    photo, sound = Picture.objects.get(), Recording.objects.get()
    assert photo.data is None and sound.data is None
    assert lying(folder) == {photo.key, sound.key} and str(who.workshop.id) in photo.key
    answer = shown(who, job)
    assert answer.status_code == 200 and b"".join(answer.streaming_content) == (folder / photo.key).read_bytes()
    assert who.client.get(f"/api/v1/jobs/{job}/bundle").status_code == 200
    (folder / photo.key).unlink()
    away = shown(who, job)
    assert away.status_code == 503 and away.json()["code"] == "store_away"


def test_what_lies_in_the_database_is_carried_over_and_nothing_is_lost(folder, settings, capsys):
    address, settings.OBJECTS = settings.OBJECTS, ""
    who = a_technician()
    job = who.opens()
    attached(who, job)
    with pytest.raises(CommandError, match="WARM_OBJECTS"):
        call_command("objects")
    before = b"".join(shown(who, job).streaming_content)
    settings.OBJECTS = address
    assert b"".join(shown(who, job).streaming_content) == before  # not carried over yet
    call_command("objects")
    assert "1 pictures carried over" in capsys.readouterr().out
    assert Picture.objects.get().data is None and b"".join(shown(who, job).streaming_content) == before


def test_an_object_goes_with_its_row(folder, django_capture_on_commit_callbacks):
    who = a_technician()
    job = who.opens()
    photo, _ = attached(who, job)
    key = Picture.objects.get().key
    gone = {"withdrawn": True, "at": AT}
    assert who.put(f"/jobs/{job}/facts/{photo}/withdrawn", gone).status_code == 200
    old = timezone.now() - timedelta(days=3)
    Photo.objects.update(withdrawn_at=old)
    Picture.objects.update(created_at=old)
    with django_capture_on_commit_callbacks(execute=True):
        sweep(timestamp=0)
    assert not Picture.objects.exists() and key not in lying(folder)


def test_a_workshop_goes_out_comes_in_and_leaves_with_its_objects(folder):
    who = a_technician(Role.LEAD)
    job = who.opens()
    attached(who, job)
    whole = io.BytesIO()
    write_out(who.workshop, whole)
    before = lying(folder)
    asked = {"name": who.workshop.name, "password": "a long password", "keep_years": 0}
    assert who.put("/workshop/leaving", asked).status_code == 200
    Leaving.objects.update(due_at=timezone.now())
    leaving.delete_due()
    assert lying(folder) == set()
    bring_in(whole)
    assert lying(folder) == before and Picture.objects.get().content()


def test_a_store_that_does_not_answer_keeps_nothing_and_says_so(settings, tmp_path):
    blocked = tmp_path / "a file"
    blocked.write_text("")
    settings.OBJECTS = f"file://{blocked}/objects"
    who = a_technician()
    job = who.opens()
    path = f"/api/v1/jobs/{job}/photos/{uuid.uuid4()}?at=2026-11-25T09:00:00Z"
    answer = who.client.put(path, picture(), content_type="image/jpeg")
    assert answer.status_code == 503 and not Picture.objects.exists()
