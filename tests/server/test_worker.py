"""The worker where the database goes away under it: nothing is left in its hands, nothing is dead for good."""

import asyncio
from uuid import uuid4

import psycopg
import pytest
from django.core.management import call_command
from django.db import OperationalError, connection
from procrastinate.contrib.django import app
from procrastinate.exceptions import ConnectorException
from procrastinate.manager import JobManager

from jobs import tasks
from people.management.commands import work
from shared.queues import QUEUES, TRIES, tick

pytestmark = pytest.mark.django_db(transaction=True)


@pytest.fixture(autouse=True)
def worker(settings, tmp_path):
    settings.MAIL = str(tmp_path)
    yield
    with connection.cursor() as cursor:
        cursor.execute("TRUNCATE procrastinate_jobs, procrastinate_workers CASCADE")


def jobs() -> list[tuple[str, bool]]:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT status::text, worker_id IS NULL FROM procrastinate_jobs "
            "WHERE task_name = 'renew_jobs_of' ORDER BY id"
        )
        return cursor.fetchall()


def a_task(**how) -> None:
    tasks.renew_jobs_of.configure(**how).defer(machine=str(uuid4()), place=None)


def take_up() -> None:
    """As the worker does every ten seconds."""

    async def taken() -> None:
        connector = app.connector.get_worker_connector()
        with app.replace_connector(connector):
            async with app.open_async():
                await tasks.take_up_stalled(0)

    asyncio.run(taken())


def test_what_became_of_a_job_and_could_not_be_written_down_is_done_again(monkeypatch):
    """The connection breaks between the work and the note of it: the job would stay with a worker that is alive."""
    finish, broken = JobManager.finish_job, []

    async def breaks_once(self, job, *args, **kwargs):
        if job.task_name == "renew_jobs_of" and not broken:
            broken.append(True)
            raise ConnectorException("the connection is closed")
        await finish(self, job, *args, **kwargs)

    monkeypatch.setattr(JobManager, "finish_job", breaks_once)
    a_task()
    command = work.Command()
    assert asyncio.run(asyncio.wait_for(command._work(list(QUEUES)), timeout=60)) is False  # it begins anew
    take_up()
    assert jobs() == [("todo", True)]


def test_a_killed_job_whose_like_waits_is_left_to_it_and_the_next_is_taken_up():
    for _ in range(2):
        a_task(queueing_lock="one of a kind")
        with connection.cursor() as cursor:
            cursor.execute("UPDATE procrastinate_jobs SET status = 'doing'")
    a_task(queueing_lock="one of a kind")
    a_task()
    with connection.cursor() as cursor:
        cursor.execute("UPDATE procrastinate_jobs SET status = 'doing' WHERE queueing_lock IS NULL")
    take_up()
    assert [status for status, _ in jobs()] == ["todo", "todo"]


def test_each_task_is_tried_again_or_comes_again():
    call_command("check")  # every app's tasks are known by now
    ours = {name: task for name, task in app.tasks.items() if not name.startswith(("builtin", "procrastinate"))}
    assert len(ours) > 10
    for name, task in ours.items():
        assert task.retry_strategy is TRIES or task.queueing_lock == name, name


@pytest.mark.parametrize(
    ("fault", "over"),
    [(OperationalError, True), (ConnectorException, True), (psycopg.InterfaceError, True), (ValueError, False)],
)
@pytest.mark.parametrize("waited", [False, True])
def test_housekeeping_leaves_an_absent_database_to_the_next_time_and_no_other_fault(fault, over, waited, monkeypatch):
    monkeypatch.setattr(app, "tasks", dict(app.tasks))

    def trouble(timestamp):
        if fault in (OperationalError, ConnectorException):
            raise fault("told") from psycopg.errors.AdminShutdown("terminating connection")
        raise fault("told")

    async def trouble_waited_for(timestamp):
        trouble(timestamp)

    made = tick(f"trouble {uuid4()}", cron="0 0 1 1 *")(trouble_waited_for if waited else trouble)

    def run():
        return asyncio.run(made(0)) if waited else made(0)

    if over:
        run()
    else:
        with pytest.raises(fault):
            run()
