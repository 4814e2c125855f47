"""The kit of a job on paper: what goes, which checks come first and in which order, what each can do there."""

from __future__ import annotations

from naveta_core.cautions import CAUTIONS
from naveta_core.jobs.fitness import Fitness
from naveta_core.units.formatting import capital, closed, count
from records.kits import kit_of
from reports.pages import Page

FITS = {"fit": "Fit", "fit-if": "Fit if", "not-fit": "Not fit"}
SITE_CAUTIONS = ("sun", "overhead-lines", "storm", "traffic", "weather", "wind", "carry")


def kit_report(pk: int) -> bytes:
    """What to take to a job and why, as a PDF. Raises Refused."""
    job, on, answer = kit_of(pk)
    crew = f"{job.crew.name} crew" if job.crew else "all crews"
    page = Page(
        "Kit for ",
        f"{crew}, {job.place or 'place not given'}. From {job.starts_on:%d %B %Y}; looked at as of {on:%d %B %Y}.",
        name=job.name,
    )
    page.strong(answer.text)
    kit = answer.kit
    chosen = set(kit.tags) if kit else set()
    if kit:
        page.table(
            ["Take", "What it is", "Where"],
            [[e.tag, e.model, e.place] for e in answer.fitness if e.tag in chosen],
            typed=(0, 1, 2),
        )
        rows = [
            [str(i), c.tag, c.title, c.where.replace("-", " "), _minutes(c.minutes), c.why]
            for i, c in enumerate(kit.checks, start=1)
        ]
        if rows:
            page.heading("Checks first, in this order")
            page.table(["", "", "Check", "When", "", "Why"], rows, [18, 42, 100, 72, 58, 186])
        page.text(kit.separately, "sub")
    page.text(answer.compared_text, "sub")
    for title, entries in (
        ("What these can do there", [e for e in answer.fitness if e.tag in chosen]),
        ("What else there is", [e for e in answer.fitness if e.tag not in chosen]),
    ):
        if entries:
            page.heading(title)
            for entry in entries:
                _fitness(page, entry)
    page.cautions([CAUTIONS[code] for code in SITE_CAUTIONS])
    return page.pdf()


def _minutes(minutes: int) -> str:
    return count(minutes, "minute", "minutes")


def _fitness(page: Page, entry: Fitness) -> None:
    why = " ".join(closed(reason.text) for reason in entry.reasons) if entry.fit == "not-fit" else entry.text
    page.text(f"{entry.tag}, {entry.model}. {FITS[entry.fit]}. {capital(why) if why else ''}".strip())
    for budget in entry.budgets if entry.fit != "not-fit" else []:
        page.text(budget.text, "sub")
