"""The fleet: models of instruments with what their makers state, and the instruments themselves."""

from __future__ import annotations

from django.db import models

from people.models import Crew, Person

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
        default=dict, help_text="A document's `limits` as the firm's rules make them; empty takes the default ones."
    )
    work_limits = models.JSONField(default=dict, help_text="The same for single classes of work, by their names.")
    version = models.PositiveIntegerField(default=0, help_text="How often it was changed.")
    tips = models.TextField(default="", blank=True)
    adjusting_tips = models.JSONField(default=dict, help_text="Where its screws are, by kind of check.")
    contents = models.JSONField(default=list, help_text="What belongs into its case; empty takes the default list.")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["maker", "name"], name="one_model_a_name")]

    def __str__(self) -> str:
        return f"{self.maker} {self.name}"


class LimitRule(models.Model):
    """A limit the firm sets: of one quantity, for a model or every instrument of a kind, for all work or one class of it."""

    model = models.ForeignKey(InstrumentModel, on_delete=models.PROTECT, null=True, related_name="rules")
    kind = models.CharField(max_length=30, default="", blank=True)
    class_of_work = models.CharField(max_length=40, default="", blank=True)
    quantity = models.CharField(max_length=60)
    use = models.FloatField()
    watch = models.FloatField(null=True)
    adjust = models.FloatField(null=True)
    source = models.CharField(max_length=200)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="limits_set")
    at = models.DateTimeField()
    version = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["model", "kind", "class_of_work", "quantity"], name="one_rule_a_scope", nulls_distinct=False
            )
        ]

    def __str__(self) -> str:
        return f"{self.model or self.kind} {self.quantity}"


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
    missing = models.JSONField(
        default=dict,
        help_text="What was missing from its case when somebody last looked, when and who; empty: never looked.",
    )
    chain_length = models.PositiveIntegerField(default=0, help_text="How many records its chain holds.")
    chain_head = models.CharField(max_length=64, default="", help_text="The digest of its last record.")

    def __str__(self) -> str:
        return self.tag


class Attachment(models.Model):
    """A file kept with an instrument, named by its digest: how it lies in its case, a certificate."""

    class Purpose(models.TextChoices):
        CASE = "case"
        CERTIFICATE = "certificate"

    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="attachments")
    purpose = models.CharField(max_length=12, choices=Purpose)
    digest = models.CharField(max_length=64, help_text="SHA-256 of the file as it is kept.")
    name = models.CharField(max_length=120)
    media_type = models.CharField(max_length=40)
    size = models.PositiveIntegerField()
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="attachments")
    at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True, help_text="Not shown from then on; the file stays.")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["instrument", "purpose", "digest"], name="one_file_a_purpose")]

    def __str__(self) -> str:
        return f"{self.instrument} {self.purpose} {self.name}"


class FleetImport(models.Model):
    """A table that was read in: what it added and changed, so that it can be taken back."""

    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="fleet_imports")
    at = models.DateTimeField()
    done = models.JSONField(help_text="Tags added, facts changed from what to what, models made.")
    undone_at = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return f"{self.at:%Y-%m-%d} {self.by}"
