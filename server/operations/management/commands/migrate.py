"""Django's migrate, with a copy of the database kept before anything in it changes; what follows from records is derived
again after it."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import CommandError
from django.core.management.commands.migrate import Command as Migrate
from django.db import connections
from django.db.migrations.executor import MigrationExecutor

from config.environment import DATABASE
from operations.backups import BackupError, copy_database
from operations.startup import by_write_ahead


class Command(Migrate):
    def handle(self, *args: Any, **options: Any) -> None:
        connection = connections[options["database"]]
        path = settings.NAVETA.data / DATABASE
        older = self._pending(connection)
        ours = connection.vendor == "sqlite" and str(connection.settings_dict["NAME"]) == str(path)
        if ours and older and path.exists() and path.stat().st_size:
            copy = settings.NAVETA.data / f"before-migration-{datetime.now(UTC):%Y%m%d-%H%M%S}.sqlite3"
            try:
                copy_database(path, copy)
            except BackupError as error:
                raise CommandError(f"Nothing was changed: no copy could be kept before. {error}") from None
            copy.chmod(0o600)
            if options["verbosity"]:
                self.stdout.write(f"A copy is kept in {copy.name}.")
        super().handle(*args, **options)
        if ours:
            by_write_ahead()
        if older:
            call_command("rebuild_derived", verbosity=0)

    @staticmethod
    def _pending(connection: Any) -> bool:
        executor = MigrationExecutor(connection)
        return bool(executor.loader.applied_migrations and executor.migration_plan(executor.loader.graph.leaf_nodes()))
