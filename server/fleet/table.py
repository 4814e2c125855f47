"""The fleet as a table: out, and in with a look beforehand and a way back.

An import is whole or nothing. It can be taken back while nothing was built on it: no record on an instrument it added,
nothing changed since of what it changed.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from typing import Any

from django.db import transaction

from fleet.listing import fleet_row
from fleet.models import KINDS, FleetImport, Instrument, InstrumentModel
from fleet.selectors import yard
from fleet.services import FIRST_DAY, mark_changed, next_mark
from fleet.tags import normalise_tag
from naveta_core.documents.csv_io import Row, Rows, TableFaults, read_rows, write_rows
from naveta_core.errors import Fault, Refused, quote
from people.models import Crew, Person
from shared import clock
from shared.errors import Conflict
from shared.rights import require

COLUMNS = ("tag", "maker", "model", "kind", "serial", "place", "crew", "since")
NEEDED = ("tag", "maker", "model")
SHOWN = (*COLUMNS, "state", "due_on", "why")
FACTS = ("serial", "place", "crew", "since")
MAX_LENGTHS = {"maker": 60, "model": 60, "serial": 60, "place": 80}


@dataclass(slots=True)
class PlannedRow:
    """What a row of a table would do: add an instrument, change one, or nothing."""

    tag: str
    does: str
    changes: dict[str, list[str]] = field(default_factory=dict)
    """What changes, each from what to what."""
    new_model: str = ""
    facts: dict[str, Any] = field(default_factory=dict)


def export_table() -> str:
    """Every instrument with where it stands, as comma-separated text."""
    rows = []
    for row in sorted(yard(clock.today()), key=lambda each: each.one.tag):
        listed = fleet_row(row)
        named = {"maker": row.one.maker, "model": row.one.name, "why": " ".join(listed["reasons"])}
        facts = {
            name: listed[name] or "" for name in ("tag", "kind", "serial", "place", "crew", "since", "state", "due_on")
        }
        rows.append({**facts, **named})
    return write_rows(SHOWN, rows)


def look_at(text: str) -> list[PlannedRow]:
    """What a table would do, row by row. Raises TableFaults with everything that is wrong in it."""
    rows = read_rows(text, SHOWN, NEEDED)
    here = {one.tag: one for one in Instrument.objects.select_related("model", "crew")}
    models = {(model.maker.lower(), model.name.lower()): model for model in InstrumentModel.objects.all()}
    crews = {crew.name.lower(): crew for crew in Crew.objects.all()}
    faults: list[Fault] = []
    planned: list[PlannedRow] = []
    seen: set[str] = set()
    for row in rows:
        found = _row(row, rows, here, models=models, crews=crews, faults=faults)
        if found is None:
            continue
        if found.tag in seen:
            faults.append(rows.fault(row, "tag", "each tag once"))
        seen.add(found.tag)
        planned.append(found)
    if faults:
        raise TableFaults(faults)
    return planned


def _row(
    row: Row,
    rows: Rows,
    here: dict[str, Instrument],
    *,
    models: dict[tuple[str, str], InstrumentModel],
    crews: dict[str, Crew],
    faults: list[Fault],
) -> PlannedRow | None:
    before = len(faults)
    try:
        tag = normalise_tag(row["tag"])
    except Refused as error:
        faults.append(rows.fault(row, "tag", error.faults[0].wanted))
        return None
    for column, most in MAX_LENGTHS.items():
        if len(row[column]) > most:
            faults.append(rows.fault(row, column, f"at most {most} characters"))
    model = models.get((row["maker"].lower(), row["model"].lower()))
    if model is None and row["kind"] not in KINDS:
        wanted = "a model of the fleet, or with a new one its kind: " + ", ".join(KINDS)
        faults.append(rows.fault(row, "model" if not row["kind"] else "kind", wanted))
    if model is not None and row["kind"] and row["kind"] != model.kind:
        faults.append(rows.fault(row, "kind", f"{model.kind}, as {model} is, or nothing"))
    if row["crew"] and row["crew"].lower() not in crews:
        faults.append(rows.fault(row, "crew", "one of " + ", ".join(c.name for c in crews.values()) + ", or nothing"))
    since = _day(row, rows, faults)
    one = here.get(tag)
    if one is not None and (model is None or one.model_id != model.pk):
        faults.append(rows.fault(row, "model", f"{one.model}, as {tag} is"))
    if len(faults) > before:
        return None
    crew = crews[row["crew"].lower()].name if row["crew"] else ""
    facts = {"serial": row["serial"], "place": row["place"], "crew": crew, "since": since.isoformat() if since else ""}
    if one is None:
        named = f"{row['maker']} {row['model']}"
        return PlannedRow(tag, "add", new_model="" if model else named, facts={**facts, **_named(row)})
    now = facts_of(one)
    changes = {
        name: [now[name], facts[name]] for name in ("serial", "place", "since") if facts[name] not in ("", now[name])
    }
    if crew != now["crew"] and row["crew"]:
        # Who has it follows from what was taken out and handed in, never from a table.
        faults.append(rows.fault(row, "crew", f"{now['crew'] or 'nothing'}, as it is: take it out or hand it in"))
    return PlannedRow(tag, "change" if changes else "same", changes=changes)


def _named(row: Row) -> dict[str, str]:
    return {name: row[name] for name in ("maker", "model", "kind")}


def _day(row: Row, rows: Rows, faults: list[Fault]) -> date | None:
    if not row["since"]:
        return None
    try:
        day = date.fromisoformat(row["since"])
    except ValueError:
        day = None
    if day is None or not FIRST_DAY <= day <= clock.today():
        faults.append(rows.fault(row, "since", "a day such as 2027-03-02, not in the future"))
        return None
    return day


def facts_of(one: Instrument) -> dict[str, str]:
    """What a table holds of an instrument and may change."""
    return {
        "serial": one.serial,
        "place": one.place,
        "crew": one.crew.name if one.crew else "",
        "since": one.since.isoformat(),
    }


@transaction.atomic
def import_table(*, actor: Person, text: str, store: bool) -> tuple[list[PlannedRow], FleetImport | None]:
    """Look at a table and, when `store`, do what it says. Raises TableFaults, Forbidden."""
    require(actor, "manage-fleet")
    planned = look_at(text)
    if not store or not any(row.does in ("add", "change") for row in planned):
        return planned, None
    done: dict[str, Any] = {"added": [], "changed": {}, "models": []}
    for row in planned:
        if row.does == "add":
            done["models"] += _add(row)
            done["added"].append(row.tag)
        elif row.does == "change":
            _change(row.tag, {name: pair[1] for name, pair in row.changes.items()})
            done["changed"][row.tag] = row.changes
    return planned, FleetImport.objects.create(by=actor, at=clock.now(), done=done)


def _add(row: PlannedRow) -> list[int]:
    """An instrument, and its model where that is new; gives the models made."""
    facts = row.facts
    model = InstrumentModel.objects.filter(maker__iexact=facts["maker"], name__iexact=facts["model"]).first()
    made = []
    if model is None:
        model = InstrumentModel.objects.create(maker=facts["maker"], name=facts["model"], kind=facts["kind"])
        made.append(model.pk)
    crew = Crew.objects.filter(name=facts["crew"]).first() if facts["crew"] else None
    since = date.fromisoformat(facts["since"]) if facts["since"] else clock.today()
    Instrument.objects.create(
        tag=row.tag,
        model=model,
        serial=facts["serial"],
        place=facts["place"],
        crew=crew,
        since=since,
        changed=next_mark(),
    )
    return made


def _change(tag: str, facts: dict[str, str]) -> None:
    one = Instrument.objects.select_for_update().get(tag=tag)
    for name, value in facts.items():
        setattr(one, name, date.fromisoformat(value) if name == "since" else value)
    one.save(update_fields=list(facts))
    mark_changed(Instrument.objects.filter(pk=one.pk))


@transaction.atomic
def undo_import(*, actor: Person, pk: int) -> None:
    """Take an import back, whole. Raises Forbidden, Refused, Conflict with what was built on it."""
    require(actor, "manage-fleet")
    found = FleetImport.objects.select_for_update().filter(pk=pk, undone_at=None).first()
    if found is None:
        raise Refused([Fault("import", "the import", quote(str(pk)), "one that was not taken back")])
    done = found.done
    built = [tag for tag in done["added"] if _built_on(tag)]
    built += [tag for tag, changes in done["changed"].items() if _changed_since(tag, changes)]
    if built:
        raise Conflict("built-on", f"It cannot be taken back: {', '.join(sorted(built))} changed or was used since.")
    Instrument.objects.filter(tag__in=done["added"]).delete()
    InstrumentModel.objects.filter(pk__in=done["models"], instruments=None).delete()
    for tag, changes in done["changed"].items():
        _change(tag, {name: pair[0] for name, pair in changes.items()})
    found.undone_at = clock.now()
    found.save(update_fields=["undone_at"])
    next_mark()


def _built_on(tag: str) -> bool:
    one = Instrument.objects.filter(tag=tag).first()
    return one is None or one.chain_length > 0 or one.attachments.exists()


def _changed_since(tag: str, changes: dict[str, list[str]]) -> bool:
    one = Instrument.objects.select_related("crew").filter(tag=tag).first()
    return one is None or any(facts_of(one)[name] != pair[1] for name, pair in changes.items())
