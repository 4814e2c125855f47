"""People and their crews."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.utils.crypto import salted_hmac
from django.utils.functional import cached_property

from shared.rights import SIGN_OFFS


class Crew(models.Model):
    """A crew; instruments are held by crews."""

    name = models.CharField(max_length=60, unique=True)

    def __str__(self) -> str:
        return self.name


class Organisation(models.Model):
    """What the firm as a whole has set; there is one row, made when it is first wanted."""

    name = models.CharField(max_length=120, default="", blank=True)
    time_zone = models.CharField(max_length=60, default="", blank=True, help_text="Empty: the server's own.")
    work = models.JSONField(default=dict, help_text="A document's `work` as it is usually: sights, faces, tolerance.")
    least_grade = models.CharField(
        max_length=8, default="watch", help_text="The smallest that goes out: watch, or use alone."
    )
    version = models.PositiveIntegerField(default=0, help_text="How often it was changed.")

    climate = models.CharField(max_length=10, default="", blank=True, help_text="Rules for a climate hold in it.")
    preferred_method = models.CharField(
        max_length=30, default="", blank=True, help_text="The method of setting up offered first."
    )
    judge_raw = models.BooleanField(default=False, help_text="Two-face check judged by 2c and 2i, not by half of them.")

    staff_word = models.CharField(
        max_length=8, default="staff", help_text="What a levelling staff is called: staff or rod."
    )
    decimal_mark = models.CharField(
        max_length=1, default=".", help_text="The mark before decimals on screen and paper."
    )
    length_unit = models.CharField(max_length=4, default="m", help_text="Unit in which new documents begin.")
    angle_unit = models.CharField(max_length=4, default="dms", help_text="How angles of new documents are typed.")

    def __str__(self) -> str:
        return "Your firm"


class PersonManager(BaseUserManager["Person"]):
    """Finds people by the name they sign in with."""

    def get_by_natural_key(self, username: str | None) -> Person:
        return self.get(username=username)


class Person(AbstractBaseUser):
    """Somebody who signs in. Rights follow from the role; see shared/rights.py."""

    class Role(models.TextChoices):
        MANAGER = "manager"
        CREW = "crew"
        TRAINEE = "trainee"

    username = models.CharField(max_length=60, unique=True)
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=10, choices=Role)
    crew = models.ForeignKey(Crew, on_delete=models.PROTECT, null=True, blank=True, related_name="people")
    is_active = models.BooleanField(default=True)
    adjusts = models.JSONField(
        null=True, default=None, help_text="Kinds of check this person may adjust; null: as their role may."
    )
    version = models.PositiveIntegerField(default=0, help_text="How often the manager changed it.")
    views = models.JSONField(default=list, help_text="Views of fleet and ledger kept by name: [{place, name, text}].")
    email = models.EmailField(default="", blank=True, help_text="Where the weekly summary goes; empty: nowhere.")
    digest_week = models.CharField(max_length=10, default="", blank=True, help_text="The Monday it was last sent for.")
    sessions = models.PositiveIntegerField(default=0, help_text="Counted up to end every session there is.")

    objects: ClassVar[PersonManager] = PersonManager()
    USERNAME_FIELD = "username"
    REQUIRED_FIELDS: ClassVar[list[str]] = ["name"]

    @cached_property
    def signed_off(self) -> frozenset[str]:
        """What a chief lets this person do alone, beyond the role."""
        return frozenset(self.sign_offs.filter(revoked_at__isnull=True).values_list("what", flat=True))

    def get_session_auth_hash(self) -> str:
        """What a session must match: another one with every password, and whenever sessions are ended."""
        text = f"{self.password}/{self.sessions}"
        return salted_hmac("naveta.session", text, algorithm="sha256").hexdigest()

    def get_session_auth_fallback_hash(self) -> Iterator[str]:
        """None: the key does not change under running sessions."""
        return iter(())

    def __str__(self) -> str:
        return self.name


class SettingChange(models.Model):
    """One setting changed: what it was, what it is from then on, who and when. Added to and never changed."""

    about = models.CharField(max_length=120, help_text="What was set: firm, person:NAME, model:ID, limits.")
    version = models.PositiveIntegerField()
    field = models.CharField(max_length=80)
    label = models.CharField(max_length=120)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="settings_changed")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["about", "version"], name="changes_of_a_setting")]

    def __str__(self) -> str:
        return f"{self.about} {self.field}"


class SignOff(models.Model):
    """A chief lets somebody do something alone, until it is taken back. Added to; what was taken back stays."""

    person = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="sign_offs")
    what = models.CharField(max_length=20)
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="signed_people_off")
    at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    revoked_by = models.ForeignKey(Person, on_delete=models.PROTECT, null=True, related_name="took_sign_offs_back")

    class Meta:
        indexes = [models.Index(fields=["person", "revoked_at"], name="sign_offs_in_force")]

    def __str__(self) -> str:
        return f"{self.person} {self.what}"

    @property
    def label(self) -> str:
        """What it is called on screen."""
        return SIGN_OFFS[self.what]
