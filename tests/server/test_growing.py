"""A copy to read from, a worker for each queue, several workshops on one installation."""

import pytest
from django.core.management import CommandError, call_command
from django.db import connections, transaction
from tests.server.factories import a_technician

from jobs.models import Job
from people.models import Role
from shared.queues import QUEUES
from shared.replica import REPLICA, Router, from_the_replica
from whole.figures import figures


@pytest.fixture
def copy(settings):
    """A second way to the database, as if it were a copy that follows it."""
    settings.DATABASE_ROUTERS = ["shared.replica.Router"]
    connections.databases[REPLICA] = dict(connections.databases["default"])
    connections.settings[REPLICA] = connections.databases[REPLICA]
    yield connections.databases[REPLICA]
    connections[REPLICA].close()
    del connections[REPLICA]
    connections.databases.pop(REPLICA, None)
    connections.settings.pop(REPLICA, None)


@pytest.mark.django_db(transaction=True, databases=["default"])
def test_the_desk_is_read_from_the_copy_and_writes_never_go_there(copy, django_db_blocker):
    with django_db_blocker.unblock():
        router = Router()
        assert router.db_for_read(Job) is None and router.db_for_write(Job) == "default"
        with from_the_replica():
            assert router.db_for_read(Job) == REPLICA and router.db_for_write(Job) == "default"
        assert router.db_for_read(Job) is None
        with transaction.atomic(), from_the_replica():  # what it wrote would not be there yet
            assert router.db_for_read(Job) is None
        assert not router.allow_migrate(REPLICA, "jobs") and router.allow_migrate("default", "jobs")


@pytest.mark.django_db(transaction=True)
def test_a_copy_that_does_not_answer_is_done_without(copy, django_db_blocker):
    copy["PORT"] = "1"
    with django_db_blocker.unblock(), from_the_replica():
        assert Router().db_for_read(Job) is None


@pytest.mark.django_db
@pytest.mark.parametrize("named", ["mails", "", "mail,nonsense"])
def test_a_worker_takes_from_queues_there_are(named, settings, tmp_path):
    settings.MAIL = str(tmp_path)
    with pytest.raises(CommandError, match=", ".join(QUEUES)):
        call_command("work", queues=named)


@pytest.mark.django_db
def test_each_workshop_has_its_own_figures(capsys):
    small, large = a_technician(Role.LEAD), a_technician(Role.LEAD)
    small.opens()
    for _ in range(3):
        large.opens()
    first, second = figures()
    assert (first.name, first.jobs, second.jobs) == (large.workshop.name, 3, 1)
    assert first.people == 1 and first.jobs_a_month == 1 and first.rows > second.rows and first.last_used
    call_command("workshops")
    out = capsys.readouterr().out.splitlines()
    assert len(out) == 3 and large.workshop.name[:20] in out[1]
