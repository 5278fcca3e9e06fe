"""What whoever runs it relies on: health, figures, lines without names, old clients, migrations."""

import json
import logging
import subprocess
import sys
import threading
import time
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from pathlib import Path
from unittest.mock import patch

import psycopg
import pytest
from django.core.management import CommandError, call_command
from django.db import migrations, models
from django.db.migrations.loader import MigrationLoader
from django.http import HttpResponse
from django.test import Client
from django.utils import timezone
from tests.server.factories import AT, a_technician, documented
from tests.server.test_people import entered

from config import health as observed_health
from config.health import _Health
from config.observe import RequestLog
from jobs.answer.warm import warm
from jobs.models import Presence
from jobs.tasks import sweep
from people.models import Attempt, Sitting
from people.tasks import mail, post
from reports.models import Record
from shared.queues import TRIES
from warmdraft.diagnosis.hypotheses import hypotheses_of
from warmdraft.work import state

RELEASED = Path(__file__).parent / "released"


def health(client=None):
    """What /healthz says now, not half a second ago."""
    fresh = _Health()
    with patch.object(observed_health, "_health", fresh):
        return (client or Client()).get("/healthz")


@pytest.mark.django_db
def test_what_the_first_answer_takes_is_made_ready_before_anybody_asks():
    person = a_technician()
    job = person.opens()
    person.reads(job, "outlet_flow", "80", "cfm")
    for kept in (hypotheses_of, state.verdict_of, state.weighed_of):
        kept.cache_clear()  # as in a process that has just begun
    warm()
    made = hypotheses_of.cache_info().misses
    assert made > 0 and person.get(f"/jobs/{job}").status_code == 200
    assert hypotheses_of.cache_info().misses == made


@pytest.mark.django_db(transaction=True)
def test_health_names_what_is_wrong_and_figures_are_kept_from_outside(settings):
    report = health()
    assert report.status_code == 200
    assert report.json() == {
        "database": "ok", "migrations": "ok", "queue": "ok", "worker": "none shows a sign of life; start one",
        "jobs_waiting": 0, "jobs_dead": 0, "oldest_waits_s": 0,
    }  # fmt: skip
    mail("invitation", uuid.uuid4())
    assert health().json()["jobs_waiting"] == 1
    figures = Client().get("/metrics")
    assert figures.status_code == 200 and b"warm_jobs_waiting 1" in figures.content
    assert b'warm_requests_total{method="GET",route="none",status="200"}' in figures.content
    for said in ("X-Forwarded-For", "X-Real-IP", "Forwarded", "X-Forwarded-Proto", "Via"):
        assert Client(headers={said: "10.0.0.9"}).get("/metrics").status_code == 404, said
    settings.METRICS_TOKEN = "a token"
    assert Client().get("/metrics").status_code == 404
    assert Client(headers={"Authorization": "Bearer a token"}).get("/metrics").status_code == 200


@pytest.mark.django_db(transaction=True)
def test_a_missing_migration_and_a_lost_database_are_a_503(monkeypatch):
    monkeypatch.setattr(observed_health, "_our_migrations", lambda: frozenset({("jobs", "9999_not_yet")}))
    answer = health()
    assert answer.status_code == 503 and "1 to apply" in answer.json()["migrations"]

    def away(*_, **__):
        raise psycopg.OperationalError("no")

    monkeypatch.setattr(observed_health.psycopg, "connect", away)
    answer = health()
    assert answer.status_code == 503 and answer.json()["database"] == "no answer: OperationalError"


def test_health_answers_within_a_second_whatever_host_it_is_asked_by_and_asks_once_for_all(monkeypatch, settings):
    """A database that says nothing; a balancer that asks over plain HTTP by the machine's address; 40 at once."""
    settings.SECURE_SSL_REDIRECT, settings.ALLOWED_HOSTS = True, ["warm.example"]
    asked, go = [], threading.Event()

    def silent(*_, **__):
        asked.append(1)
        go.wait(5)
        raise psycopg.OperationalError("no")

    monkeypatch.setattr(observed_health.psycopg, "connect", silent)
    with patch.object(observed_health, "_health", _Health()), ThreadPoolExecutor(40) as pool:
        began = time.monotonic()
        answers = list(pool.map(lambda _: Client().get("/healthz", headers={"host": "10.0.0.7"}), range(40)))
        spent = time.monotonic() - began
        go.set()
    assert {answer.status_code for answer in answers} == {503} and asked == [1]
    assert "within a second" in answers[0].json()["database"]
    assert spent < 10  # 40 clients of the test's own on two busy cores, 0.9 s each; 30 s and more before


@pytest.mark.django_db
def test_methods_that_somebody_invents_make_one_figure():
    for i in range(30):
        Client().generic(f"MADEUP{i}", "/api/v1/session")
    figures = Client().get("/metrics").content
    assert b"MADEUP" not in figures and b'method="other"' in figures


@pytest.mark.django_db
def test_a_line_a_request_with_an_id_and_nothing_personal(caplog):
    caplog.set_level(logging.INFO, logger="warm")
    person = a_technician().person
    client, _ = entered(person.email)
    answer = client.get("/api/v1/me", headers={"X-Request-ID": "0123456789abcdef"})
    assert answer["X-Request-ID"] == "0123456789abcdef"
    assert len(client.get("/api/v1/me", headers={"X-Request-ID": "no spaces, please"})["X-Request-ID"]) == 32
    Client().post("/api/v1/join/look", {"token": "secret-token"}, content_type="application/json")
    lines = [record.__dict__ for record in caplog.records if record.name == "warm.request"]
    assert {line["route"] for line in lines} >= {"api/v1/me", "api/v1/session", "api/v1/join/look"}
    told = json.dumps([{k: str(v) for k, v in line.items()} for line in lines])
    for private in (person.email, person.name, "secret-token", "a phone", str(person.id)):
        assert private not in told


def test_what_is_not_known_by_its_route_is_logged_without_its_address(rf, caplog):
    caplog.set_level(logging.INFO, logger="warm")
    RequestLog(lambda _: HttpResponse(status=500))(rf.get("/reset/secret"))
    (line,) = caplog.records
    assert line.levelname == "ERROR" and line.route == "none" and "secret" not in str(line.__dict__)


@pytest.mark.django_db
def test_the_sweep_takes_what_is_over_and_leaves_the_rest():
    who = a_technician()
    signed_in, _ = entered(who.person.email)
    long_ago = timezone.now() - timedelta(days=2)
    Sitting.objects.create(person=who.person, session_key="gone")
    Attempt.objects.create(who_sha256="x")
    Attempt.objects.update(at=long_ago)
    job = who.opens()
    Presence.objects.create(job_id=job, person=who.person, seen_at=long_ago)
    sweep(0)
    assert Sitting.objects.count() == 1 and signed_in.get("/api/v1/me").status_code == 200
    assert not Attempt.objects.exists() and not Presence.objects.exists()


def test_a_job_is_tried_again_later_each_time_and_then_is_dead():
    assert post.retry_strategy is TRIES and TRIES.max_attempts == 6


@pytest.mark.django_db
def test_records_that_were_tampered_with_are_named():
    lead = a_technician("lead")
    job = lead.opens()
    lead.put(f"/jobs/{job}/record/01a0f3c2-0000-7000-8000-000000000009", {"at": AT, "override": "sold"})
    call_command("check_records")
    Record.objects.update(snapshot={"title": "another"})
    with pytest.raises(CommandError, match="1 of 1 records"):
        call_command("check_records")


def _bodies(openapi):
    for path, methods in openapi["paths"].items():
        for method, operation in methods.items():
            content = operation.get("requestBody", {}).get("content", {})
            ref = content.get("application/json", {}).get("schema", {}).get("$ref", "")
            yield method, path, ref.rsplit("/", 1)[-1]


@pytest.mark.parametrize("release", sorted(RELEASED.glob("*.json")), ids=lambda file: file.stem)
def test_a_client_of_an_earlier_release_can_still_send(release):
    """Every route it wrote to is there, and asks for nothing it did not know of."""
    then, now = json.loads(release.read_text()), documented()
    there = {(method, path): body for method, path, body in _bodies(now)}
    for method, path, body in _bodies(then):
        assert (method, path) in there, f"{method} {path} is gone"
        if body:
            old = then["components"]["schemas"][body]
            new = now["components"]["schemas"][there[method, path]]
            assert set(new.get("required", [])) <= set(old["properties"]), f"{path} asks for more"
            for name, kind in old["properties"].items():
                known = new["properties"].get(name, {})
                allowed = set(known.get("enum", kind.get("enum", [])))
                assert set(kind.get("enum", [])) <= allowed, f"{path} {name}"


#: Migrations of the first release: nobody ran anything before them.
_FIRST = {
    ("people", "0001_initial"), ("machines", "0001_initial"), ("jobs", "0001_initial"), ("reports", "0001_initial"),
    ("jobs", "0002_meter_logs_and_what_is_told"),
}  # fmt: skip
_TAKES_AWAY = (migrations.RemoveField, migrations.DeleteModel, migrations.RenameField, migrations.RenameModel,
               migrations.AlterModelTable)  # fmt: skip


def test_an_older_release_goes_on_while_migrations_run():
    """Nothing is taken away or renamed, and whatever is new may be left out by who does not know it."""
    ours = [m for key, m in MigrationLoader(None).disk_migrations.items()
            if key[0] in ("people", "files", "machines", "jobs", "reports") and key not in _FIRST]  # fmt: skip
    made = {(m.app_label, op.name.lower()) for m in ours for op in m.operations
            if isinstance(op, migrations.CreateModel)}  # fmt: skip
    assert ours
    for migration in ours:
        for operation in migration.operations:
            assert not isinstance(operation, _TAKES_AWAY), f"{migration}: {operation}"
            if isinstance(operation, migrations.AddField):
                if (migration.app_label, operation.model_name.lower()) in made:
                    continue
                field = operation.field
                lenient = field.null or field.db_default is not models.NOT_PROVIDED
                assert lenient or isinstance(field, models.ManyToManyField), f"{migration}: {operation.name}"


def test_the_mails_stand_in_is_a_folder(tmp_path):
    code = "from django.conf import settings as s; print(s.EMAIL_BACKEND, s.EMAIL_FILE_PATH)"
    env = {"WARM_MAIL": str(tmp_path), "WARM_SECRET_KEY": "x" * 40, "DATABASE_URL": "postgres://a@b/c",
           "PATH": "/usr/bin", "DJANGO_SETTINGS_MODULE": "config.settings", "PYTHONPATH": "server:core"}  # fmt: skip
    told = subprocess.run([sys.executable, "-c", code], env=env, capture_output=True, text=True, check=True).stdout
    assert "filebased" in told and str(tmp_path) in told
