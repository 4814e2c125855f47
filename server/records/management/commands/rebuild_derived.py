"""Derive every instrument's facts from its records again; wanted after a release that derives them differently."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from fleet.models import Instrument
from fleet.services import store_derived
from records.derived import derived_of


class Command(BaseCommand):
    help = "Compute again what follows from the records."

    def handle(self, *args: Any, **options: Any) -> None:
        for instrument in Instrument.objects.select_related("model"):
            store_derived(instrument=instrument, derived=derived_of(instrument))
        if options["verbosity"]:
            self.stdout.write("Done.")
