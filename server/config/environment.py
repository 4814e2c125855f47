"""Everything Naveta takes from its environment, typed, in one place."""

from __future__ import annotations

import secrets
from datetime import datetime
from pathlib import Path

from pydantic_settings import BaseSettings, SettingsConfigDict

ROOT = Path(__file__).resolve().parents[2]
DEMO_MARKER = "this-is-a-naveta-demo"
LOOPBACK = ("127.0.0.1", "localhost", "[::1]")


class Environment(BaseSettings):
    """NAVETA_* variables; DATABASE_URL may point elsewhere for a firm with several offices."""

    model_config = SettingsConfigDict(env_prefix="NAVETA_", extra="ignore")

    data: Path = ROOT / "data"
    port: int = 8000
    host: str = "127.0.0.1"
    hosts: str = ""
    demo: bool = False
    now: datetime | None = None
    time_zone: str = "UTC"
    https: bool = False

    def secret_key(self) -> str:
        """The secret key, made once in the data folder, readable by its owner only."""
        self.data.mkdir(parents=True, exist_ok=True)
        path = self.data / "secret-key"
        if not path.exists():
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(48))
        return path.read_text()

    @property
    def is_marked_demo(self) -> bool:
        """A demo in a folder that was made for one; one-touch sign-in needs both."""
        return self.demo and (self.data / DEMO_MARKER).exists()

    @property
    def allowed_hosts(self) -> list[str]:
        return [*LOOPBACK, *(host.strip() for host in self.hosts.split(",") if host.strip())]
