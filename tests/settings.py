"""Settings of the test run: the real ones, on the database that ./warm test gives, with a quick password hasher."""

import os

os.environ.setdefault("DATABASE_URL", "postgres://nobody@127.0.0.1/none")  # core tests connect to none
os.environ.setdefault("WARM_SECRET_KEY", "for tests only, and long enough to be taken as a key")

from config.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
# a line a request is for whoever runs it; tests ask for it where they are about it
LOGGING["loggers"]["warm"]["level"] = "ERROR"  # noqa: F405
