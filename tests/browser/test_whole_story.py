"""A lead takes the workshop out, asks for its end, and takes it back."""

import json
import zipfile

import pytest
from playwright.sync_api import expect
from tests.browser.conftest import PASSWORD
from tests.browser.test_workshop_story import hands_over

from people.models import Act, Workshop
from whole.models import Leaving

pytestmark = pytest.mark.django_db(transaction=True)


def test_the_workshop_is_taken_out_asked_to_go_and_stays_after_all(bench):
    page = bench.page
    hands_over(bench)
    workshop = Workshop.objects.get()
    bench.sign_in()
    page.get_by_role("link", name="The workshop").wait_for()
    bench.to("/people")
    whole = page.get_by_role("region", name="The whole workshop")
    with page.expect_download() as saved:
        whole.get_by_role("link", name="Take it out as a file").click()
    with zipfile.ZipFile(saved.value.path()) as packed:
        manifest = json.loads(packed.read("workshop.json"))
    assert manifest["name"] == workshop.name and manifest["rows"]["jobs.Job"] == 1
    whole.get_by_text("Delete the workshop for good").click()
    ask = whole.get_by_role("button", name="Delete it in 14 days")
    whole.get_by_label(f"Type {workshop.name}").fill("something else")
    whole.get_by_label("Your password").fill("guessed wrong")
    expect(ask).to_be_disabled()
    whole.get_by_label(f"Type {workshop.name}").fill(workshop.name)
    ask.click()
    expect(whole.get_by_role("alert")).to_contain_text("not your password")
    whole.get_by_label("Your password").fill(PASSWORD)
    ask.click()
    expect(whole.get_by_role("alert")).to_contain_text(f"{workshop.name} is deleted on")
    assert Leaving.objects.get().keep_years == 10
    whole.get_by_role("button", name="Take it back").click()
    expect(whole.get_by_text("Delete the workshop for good")).to_be_visible()
    assert not Leaving.objects.exists()
    assert list(Act.objects.filter(what__startswith="leaving").values_list("what", flat=True)) == [
        "leaving_asked", "leaving_taken_back",
    ]  # fmt: skip
