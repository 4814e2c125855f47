"""Facts of work already done: sights, heights and faces of set-ups and orientations, and of jobs by their needs."""

from __future__ import annotations

from dataclasses import replace

from ..documents.envelope import Envelope
from ..engine.affected import WorkFacts, WorkSight
from ..orientation.document import Backsight, FreeStation, Oriented
from ..orientation.read import Sight, read
from ..setup.document import LevelReadings, SetUpDocument
from ..units.formatting import joined
from .needs import JobNeeds


def recorded(document: Envelope, *, height_m: float | None, set_up: WorkFacts | None) -> tuple[str, WorkFacts]:
    """Return the place of a set-up or an orientation, and what it recorded.

    height_m: of the axis above the mark, as a set-up's result has it. set_up: what the set-up that an orientation belongs
    to recorded, where that is on record. Raises TypeError for any other document.
    """
    if isinstance(document, SetUpDocument):
        return _of_set_up(document, height_m)
    if isinstance(document, FreeStation | Backsight):
        return _of_orientation(document, set_up)
    raise TypeError(f"{document.kind} is neither a set-up nor an orientation")


def _of_set_up(document: SetUpDocument, height_m: float | None) -> tuple[str, WorkFacts]:
    o = document.observations
    level = o.level
    facts = WorkFacts(
        "set-up",
        height_m=height_m,
        centred_by=o.centred_by,
        levelled_by=level.by if _looked(level) else None,
        turned=level.turned.along is not None or level.turned.across is not None,
    )
    return ("free station" if o.mark.free else o.mark.name or "no mark named"), facts


def _looked(level: LevelReadings) -> bool:
    return any(one is not None for one in (level.first.along, level.first.across))


def _of_orientation(document: FreeStation | Backsight, set_up: WorkFacts | None) -> tuple[str, WorkFacts]:
    # Sights left out by hand count for nothing: `read` leaves them out.
    o: Oriented = document.observations
    station = document.observations.station if isinstance(document, Backsight) else None
    found = read(document, station=station, over_point=isinstance(document, Backsight))
    faces: dict[str, set[str]] = {}
    for sight in found.sights:
        faces.setdefault(sight.point.name, set()).add(o.shots[sight.index].face)
    sights = tuple(_sight(sight, both=len(faces[sight.point.name]) > 1) for sight in found.sights)
    points = joined(list(dict.fromkeys(sight.point.name for sight in found.sights)))
    name = station.name if station is not None else f"free station by {points}" if points else "free station"
    return name, replace(set_up or WorkFacts("orientation"), what="orientation", sights=sights)


def _sight(sight: Sight, *, both: bool) -> WorkSight:
    elevation = None if sight.z_deg is None else 90.0 - sight.z_deg
    return WorkSight(sight.horizontal_m, elevation, both)


def of_job(needs: JobNeeds | None) -> WorkFacts:
    """Return what a job states of its sights; no sights where it states none."""
    if needs is None or not needs.given:
        return WorkFacts("job")
    if needs.by_level and not needs.by_angles:
        return WorkFacts("job", imbalance_m=needs.imbalance_m)
    sight = WorkSight(needs.sight_m, needs.elevation_deg, needs.both_faces)
    return WorkFacts("job", sights=(sight,), imbalance_m=needs.imbalance_m if needs.by_level else None)
