"""The fleet: models of instruments with what their makers state, and the instruments themselves."""

from __future__ import annotations

from django.db import models

from people.models import Crew

KINDS = (
    "level", "digital-level", "theodolite", "total-station", "robotic-total-station",
    "tribrach", "pole", "staff", "tripod", "tape", "prism",
)  # fmt: skip


class ChangeCounter(models.Model):
    """The one counter behind "what came after": every record that arrives and every change of an instrument takes the next."""

    value = models.BigIntegerField(default=0)
    stamp = models.CharField(
        max_length=32, default="", help_text="Another one with every step: what was worked out before is of no use."
    )

    def __str__(self) -> str:
        return str(self.value)


class InstrumentModel(models.Model):
    """A model: maker, name, kind, stated accuracies, limits of its own, hints for whoever uses it."""

    maker = models.CharField(max_length=60)
    name = models.CharField(max_length=60)
    kind = models.CharField(max_length=30, choices=[(kind, kind) for kind in KINDS])
    stated = models.JSONField(default=dict, help_text="Fields of a document's `instrument`, as stated by the maker.")
    limits = models.JSONField(
        default=dict, help_text="Fields of a document's `limits`; empty takes the opening values."
    )
    tips = models.TextField(default="", blank=True)
    adjusting_tips = models.JSONField(default=dict, help_text="Where its screws are, by kind of check.")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["maker", "name"], name="one_model_a_name")]

    def __str__(self) -> str:
        return f"{self.maker} {self.name}"


class Instrument(models.Model):
    """One instrument. `facts` is what the standing needs of its records: derived, rebuilt from them at each write."""

    tag = models.CharField(max_length=8, unique=True)
    model = models.ForeignKey(InstrumentModel, on_delete=models.PROTECT, related_name="instruments")
    serial = models.CharField(max_length=60, default="", blank=True)
    place = models.CharField(max_length=80, default="", blank=True)
    crew = models.ForeignKey(Crew, on_delete=models.PROTECT, null=True, blank=True, related_name="instruments")
    since = models.DateField()
    derived = models.JSONField(default=dict)
    derived_stamp = models.CharField(max_length=32, default="", help_text="Another one with every change of `facts`.")
    changed = models.BigIntegerField(
        default=0, db_index=True, help_text="The mark of its last change: devices ask for later ones."
    )
    chain_length = models.PositiveIntegerField(default=0, help_text="How many records its chain holds.")
    chain_head = models.CharField(max_length=64, default="", help_text="The digest of its last record.")

    def __str__(self) -> str:
        return self.tag
