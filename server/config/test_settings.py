"""Settings for the tests: a folder of their own, a stopped clock, quick password hashing."""

import os
import tempfile
from pathlib import Path

os.environ["NAVETA_DATA"] = tempfile.mkdtemp(prefix="naveta-tests-")
os.environ["NAVETA_DEMO"] = "1"
os.environ["NAVETA_NOW"] = "2027-03-02T06:40:00+00:00"
os.environ.pop("DATABASE_URL", None)

import dj_database_url

from config.settings import *  # noqa: F403
from config.settings import ENV

(Path(ENV.data) / "this-is-a-naveta-demo").touch()
PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

if os.environ.get("NAVETA_TEST_DATABASE"):  # `make test-postgres`
    DATABASES = {"default": {**dj_database_url.parse(os.environ["NAVETA_TEST_DATABASE"])}}
