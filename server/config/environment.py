"""Everything Naveta takes from its environment, typed, in one place."""

from __future__ import annotations

import os
import secrets
import sys
from datetime import datetime
from pathlib import Path
from typing import Any, Literal

import dj_database_url
from pydantic import field_validator
from pydantic_settings import BaseSettings, SettingsConfigDict

ROOT = Path(__file__).resolve().parents[2]
DEMO_MARKER = "this-is-a-naveta-demo"
DATABASE, KEY = "naveta.sqlite3", "secret-key"
LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
MIN_KEY = 50
OWNER_ONLY = 0o077
"""What is taken from everybody else: files are made 0600, folders 0700."""


class Environment(BaseSettings):
    """NAVETA_* variables; DATABASE_URL may point elsewhere for a firm with several offices."""

    model_config = SettingsConfigDict(env_prefix="NAVETA_", extra="ignore")

    data: Path = ROOT / "data"
    port: int = 8000
    host: str = "127.0.0.1"
    hosts: str = ""
    bridges: str = ""
    """Addresses of bridges of other machines, from which a browser may take readings: `wss://bridge.example:4190`."""
    proxies: str = ""
    """Addresses of the proxies whose word is taken for who asks."""
    demo: bool = False
    now: datetime | None = None
    time_zone: str = "UTC"
    https: bool = False
    backup_daily: bool = True
    backup_folder: Path | None = None
    """Where the daily backups go; without one beside the database. Another disk is better."""
    smtp_host: str = ""
    """The mail server; without one nothing is sent."""
    smtp_port: int = 587
    smtp_user: str = ""
    smtp_password: str = ""
    smtp_security: Literal["starttls", "tls", "none"] = "starttls"
    mail_from: str = "naveta@localhost"

    @field_validator("data", "backup_folder")
    @classmethod
    def _one_place(cls, value: Path | None) -> Path | None:
        """One folder, whatever folder a command is called from: a relative one lies beside the code."""
        return (ROOT / value.expanduser()).resolve() if value else None

    def folder(self) -> Path:
        """The data folder, made for its owner only."""
        self.data.mkdir(parents=True, exist_ok=True, mode=0o700)
        return self.data

    def secret_key(self) -> str:
        """The secret key, made once beside an empty place; stops where a database has lost its own."""
        path = self.folder() / KEY
        if not path.exists():
            if (self.data / DATABASE).exists() and not self.demo:
                sys.exit(
                    f"{path} is missing beside a database. Restore it from a backup: without it nobody stays signed in and data on devices cannot be read."
                )
            _write_once(path, secrets.token_urlsafe(48))
        key = path.read_text().strip()
        if len(key) < MIN_KEY:
            sys.exit(f"{path} holds no key. Put it back from a backup, or remove it where there is no database yet.")
        return key

    def database(self) -> dict[str, Any]:
        """Django's database: SQLite in the data folder; elsewhere only by DATABASE_URL, and never for a demo."""
        url = "" if self.demo else os.environ.get("DATABASE_URL", "")
        if url:
            return {**dj_database_url.parse(url), "CONN_MAX_AGE": None}
        return {
            "ENGINE": "django.db.backends.sqlite3",
            "NAME": str(self.data / DATABASE),
            # Kept open: what is read goes on when nothing more can be written to the disk.
            "CONN_MAX_AGE": None,
            "OPTIONS": {
                "transaction_mode": "IMMEDIATE",
                "timeout": 20,
                "init_command": "PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
            },
        }

    def mail(self) -> dict[str, Any]:
        """Django's mail: a server by SMTP; the demo writes files into its folder, that can be read on screen."""
        if self.is_marked_demo:
            return {"backend": "django.core.mail.backends.filebased.EmailBackend", "folder": str(self.data / "mail")}
        backend = "smtp" if self.smtp_host else "dummy"
        return {"backend": f"django.core.mail.backends.{backend}.EmailBackend", "folder": ""}

    @property
    def sends_mail(self) -> bool:
        """Whether a message goes anywhere."""
        return bool(self.smtp_host) or self.is_marked_demo

    @property
    def address(self) -> str:
        """What links in a message begin with; empty where nobody said under which name Naveta is served."""
        host = next(iter(_listed(self.hosts)), "")
        return f"http{'s' if self.https else ''}://{host}" if host else ""

    @property
    def is_marked_demo(self) -> bool:
        """A demo in a folder that was made for one; one-touch sign-in needs both."""
        return self.demo and (self.data / DEMO_MARKER).exists()

    @property
    def allowed_hosts(self) -> list[str]:
        return [*LOOPBACK, *_listed(self.hosts)]

    @property
    def allowed_bridges(self) -> list[str]:
        return _listed(self.bridges)

    @property
    def trusted_proxies(self) -> list[str]:
        return _listed(self.proxies)


def _listed(text: str) -> list[str]:
    return [cell.strip() for cell in text.split(",") if cell.strip()]


def _write_once(path: Path, text: str) -> None:
    """A whole file or none, and the first of several that start at once: all of them read that one."""
    part = path.with_name(f"{path.name}.{os.getpid()}.{secrets.token_hex(4)}")
    handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "w") as file:
        file.write(text)
        file.flush()
        os.fsync(file.fileno())
    try:
        os.link(part, path)
    except FileExistsError:
        pass
    finally:
        part.unlink()
