"""Brings databases up to date, opens all that each holds as its lead sees it, and prints what came of it, a line each.

Run by test_old_databases with the names of the databases; one process for all of them, since it takes seconds to begin.
"""

import json
import os
import sys

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "tests.settings")

import django

django.setup()

from django.core.management import call_command  # noqa: E402
from django.db import connection  # noqa: E402
from django.test import Client  # noqa: E402

from jobs.models import Count, Job  # noqa: E402
from people.models import Membership  # noqa: E402
from warmdraft.jobfile import read_job  # noqa: E402


def opened(database: str) -> dict:
    connection.close()
    connection.settings_dict["NAME"] = database
    call_command("migrate", verbosity=0)
    lead = Membership.objects.filter(role="lead").select_related("person").get()
    client = Client(headers={"host": "localhost"})
    client.force_login(lead.person)

    def asked(path: str):
        answer = client.get(f"/api/v1{path}")
        return answer.status_code, answer.json()

    jobs = {}
    for job in Job.objects.all():
        status, whole = asked(f"/jobs/{job.id}")
        exported = client.get(f"/api/v1/jobs/{job.id}/file").content
        jobs[str(job.id)] = {
            "job": status,
            "history": asked(f"/jobs/{job.id}/history")[0],
            "record": asked(f"/jobs/{job.id}/record")[0] if job.shut else 200,
            "ways": asked(f"/jobs/{job.id}/ways")[0],
            "readings": len(whole.get("readings", ())),
            "exported": len(read_job(json.loads(exported)).facts.readings),
            "counted": [
                row["text"]
                for place in ((whole.get("bench") or {}).get("compartments") or ())
                for row in place["fasteners"]
                if row["counted"]
            ],
        }
    return {
        "jobs": jobs,
        "listed": sorted(len(asked(f"/jobs?which={which}")[1]) for which in ("open", "earlier", "handed_over")),
        "layouts": [row["document"] for row in asked("/layouts")[1]],
        "keys": sorted({(row.what, row.key) for row in Count.objects.all()}),
    }


for name in sys.argv[1:]:
    print(json.dumps(opened(name)))
