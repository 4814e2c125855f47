"""c, i and t from all targets together.

With c, t, i the amounts by which face left reads too large: d = Hz_L − Hz_R ± 180° = 2c/sin z + 2t·cot z, and
V_L + V_R − 360° = 2i. All targets at once: Σ n_j (d_j − 2c/sin z_j − 2t·cot z_j)² least, n_j = 2 n_L n_R/(n_L + n_R).
Standing-axis tilt cancels in both while it is the same in both faces.

Source: textbook axis errors of a theodolite: 2c/sin z and 2t·cot z; vertical index half of what both circles exceed
360° by.
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import cos, fsum, radians, sin, sqrt, tan

from ...engine.conditions import noise_factor, prior_dof
from ...geometry import mean, wrapped
from ...stats.estimate import Estimate, Spread, pooled, rounded_alike
from ...stats.least_squares import fit
from ...stats.outliers import repeats
from .document import BETWEEN_SHARE, SightedTarget, TwoFace, TwoFaceRead, accuracy

MIN_STEEPNESS_DEG = 15.0
UNKNOWN_AXIS_ARCSEC = 5.0
"""What a trunnion axis error that was not determined may be out: it then counts in c."""


@dataclass(frozen=True, slots=True)
class ReducedFaces:
    """One target reduced: what its faces differ by, seconds. In arcsec, variances in arcsec²."""

    target: SightedTarget
    zenith_deg: float
    double_c: float
    _: KW_ONLY
    index_sum: float
    within: float
    """Variance of one pointing."""
    step: float
    """The worth of its last digit, seconds."""
    between: float

    @property
    def weight(self) -> float:
        """Weight of the target's difference of faces: 2·n_L·n_R/(n_L + n_R)."""
        left, right = len(self.target.left), len(self.target.right)
        return 2.0 * left * right / (left + right)

    @property
    def share(self) -> float:
        """Variance of the mean of both faces' readings, for one of variance 1."""
        return 1.0 / len(self.target.left) + 1.0 / len(self.target.right)


@dataclass(frozen=True, slots=True)
class TwoFaceSolution:
    """What all targets together say, seconds. `q` in arcsec²: variances within and between, by unknown."""

    faces: list[ReducedFaces]
    collimation: Estimate
    index: Estimate
    _: KW_ONLY
    axis: Estimate | None
    q: dict[str, tuple[float, float]]
    repeats: Spread


def solve(document: TwoFace, read: TwoFaceRead) -> TwoFaceSolution:
    """Every target must have been seen in both faces."""
    faces = [_faces(document, sight) for sight in read.targets]
    found_repeats = repeats(groups_of(faces))
    axis_known = determined(faces)
    rows = [
        [2.0 / sin(radians(f.zenith_deg)), 2.0 / tan(radians(f.zenith_deg))][: 2 if axis_known else 1] for f in faces
    ]
    roots = [sqrt(f.weight) for f in faces]
    found = fit(
        [[a * w for a in row] for row, w in zip(rows, roots, strict=True)],
        [f.double_c * w for f, w in zip(faces, roots, strict=True)],
    )
    gains = [[g * w for g, w in zip(line, roots, strict=True)] for line in found.gain]
    dof = prior_dof(document)
    q = {}
    for name, line in zip(("c", "t"), gains, strict=False):
        q_w = fsum(g * g * f.within * f.share for g, f in zip(line, faces, strict=True))
        q_b = fsum(g * g * 2 * f.between for g, f in zip(line, faces, strict=True))
        q[name] = (q_w, q_b)
    if not axis_known:
        # What the axis adds to each target's d, in c: its cosine, the weighted mean of all targets.
        axis_share = abs(fsum(g * 2.0 / tan(radians(f.zenith_deg)) for g, f in zip(gains[0], faces, strict=True)))
        q["c"] = (q["c"][0], q["c"][1] + (UNKNOWN_AXIS_ARCSEC * axis_share) ** 2)
    total = fsum(f.weight for f in faces)
    index = fsum(f.weight * f.index_sum / 2 for f in faces) / total
    q["i"] = (
        fsum((f.weight / total) ** 2 * f.within * f.share / 4 for f in faces),
        fsum((f.weight / total) ** 2 * f.between / 2 for f in faces),
    )
    c = pooled(found.unknowns[0], *q["c"], found_repeats, dof)
    t = pooled(found.unknowns[1], *q["t"], found_repeats, dof) if axis_known else None
    return TwoFaceSolution(faces, c, pooled(index, *q["i"], found_repeats, dof), axis=t, q=q, repeats=found_repeats)


def determined(faces: list[ReducedFaces]) -> bool:
    """Whether the trunnion axis can be given: two zenith angles 15° apart, one of them 15° from level."""
    zeniths = [f.zenith_deg for f in faces]
    return max(zeniths) - min(zeniths) >= MIN_STEEPNESS_DEG and max(abs(90.0 - z) for z in zeniths) >= MIN_STEEPNESS_DEG


def _faces(document: TwoFace, target: SightedTarget) -> ReducedFaces:
    step = max(p.step_arcsec for p in [*target.left, *target.right])
    noise = target.within_arcsec(document) * noise_factor(document)
    within = noise**2 + step**2 / 12
    alike = rounded_alike(noise, step, min(len(target.left), len(target.right)))
    between = (BETWEEN_SHARE * accuracy(document)) ** 2 + alike
    hz = wrapped(target.hz_left_deg - target.hz_right_deg - 180.0)
    v = mean([p.v for p in target.left]) + mean([p.v for p in target.right]) - 360.0
    return ReducedFaces(
        target, target.zenith_deg, hz * 3600.0, index_sum=v * 3600.0, within=within, step=step, between=between
    )


def groups_of(faces: list[ReducedFaces]) -> list[list[float]]:
    """Pointings over their own spread: target by target, left Hz, left V, right Hz, right V."""
    groups = []
    for face in faces:
        spread = sqrt(face.within)
        for listed in (face.target.left, face.target.right):
            groups.append([wrapped(p.hz - listed[0].hz) * 3600.0 / spread for p in listed])
            groups.append([(p.v - listed[0].v) * 3600.0 / spread for p in listed])
    return groups


def steps_of(faces: list[ReducedFaces]) -> list[float]:
    """The last digit of those groups, over their spread."""
    return [face.step / sqrt(face.within) for face in faces for _ in range(4)]


def axis_u95(document: TwoFace, target: SightedTarget, pointings: int) -> float:
    """What one steep target beside a level one proves of t: U in arcsec, with so many pointings a face, before they are read."""
    within = (target.within_arcsec(document) * noise_factor(document)) ** 2
    between = (BETWEEN_SHARE * accuracy(document)) ** 2
    steep = steep_factor(target.middle_zenith_deg)
    dof = 8.0 * (pointings - 1)
    q_within, q_between = 2 * within / pointings * steep**2, 2 * between * steep**2
    return pooled(0.0, q_within, q_between, Spread(dof, dof), prior_dof(document)).u95


def steep_factor(zenith_deg: float) -> float:
    """How many times as unsure as d the trunnion axis is, by one steep target beside a level one."""
    z = radians(zenith_deg)
    return sqrt(1 + 1 / sin(z) ** 2) * abs(sin(z) / cos(z)) / 2
