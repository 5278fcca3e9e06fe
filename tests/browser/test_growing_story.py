"""A photo that lies in a store of objects is taken and seen as any other."""

import pytest
from tests.browser.test_sure_story import brings
from tests.server.test_files import picture

from files.models import Picture

pytestmark = pytest.mark.django_db(transaction=True)


def test_a_photo_is_taken_into_the_store_and_shown_from_it(bench, settings, tmp_path):
    settings.OBJECTS = f"file://{tmp_path}/objects"
    page = bench.page
    job = brings(bench, readings=[])
    bench.sign_in()
    page.get_by_role("link", name="New job").wait_for()
    bench.to(f"/jobs/{job}/make_safe")
    page.locator("input[type=file]").first.set_input_files(
        {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": picture()}
    )
    page.locator("img[src*='/photos/']").first.wait_for()
    kept = Picture.objects.get()
    assert kept.data is None and (tmp_path / "objects" / kept.key).is_file()
    page.reload()
    image = page.locator("img[src*='/photos/']").first
    image.wait_for()
    page.wait_for_function("() => document.querySelector(\"img[src*='/photos/']\").naturalWidth > 0")
