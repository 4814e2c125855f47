"""A kind of check is five files: one that no product has is driven through everything, with nothing else touched."""

from __future__ import annotations

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from naveta_core import dispatch, registry
from naveta_core.__main__ import main
from naveta_core.checks import KINDS
from records.models import Record

from ..toy_kind import KIND
from .conftest import Api

Data = dict[str, Any]
ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture(autouse=True)
def hand_level() -> Iterator[None]:
    registry.register(KIND)
    yield
    del KINDS[KIND.name], registry.DOCUMENTS[KIND.name]


def read(*sights: tuple[str, str]) -> Data:
    rows = [{"direct_mm": direct, "reversed_mm": back} for direct, back in sights]
    return {"kind": "hand-level", "method": "two-sights", "observations": {"sights": rows}}


def test_it_is_five_files_of_the_names_every_kind_has() -> None:
    wanted = {"__init__.py", "document.py", "solve.py", "judge.py", "text.py"}
    assert {path.name for path in (ROOT / "tests/toy_kind").glob("*.py")} == wanted
    for kind in (path for path in (ROOT / "core/naveta_core/checks").iterdir() if (path / "__init__.py").exists()):
        assert {path.name for path in kind.glob("*.py")} == wanted, kind.name


def test_the_api_begins_previews_stores_and_draws_it(tam: Api) -> None:
    found = next(kind for kind in tam.get("kinds").json() if kind["kind"] == "hand-level")
    (group,) = found["methods"][0]["groups"]
    assert (group["path"], group["rows"], [field["label"] for field in group["fields"]]) == (
        "observations.sights",
        True,
        ["Direct", "Reversed"],
    )
    assert "hand-level" in tam.get("instruments/LV-07").json()["checks"]
    begun = tam.post("kinds/hand-level/begin", {"method": "two-sights"}).json()
    shown = tam.post("preview", {"instrument": "LV-07", "document": begun}).json()
    assert (shown["complete"], shown["missing"][0]) == (False, "observations.sights[0].direct_mm")
    wrong = tam.check(read(("1.2.3", "0"), ("0", "0")))
    assert wrong.json()["faults"][0]["path"] == "observations.sights[0].direct_mm"
    assert not Record.objects.exists()
    # Half of (31 - 1) and of (29 - 1): 15 and 14 mm, 14.5 on the mean.
    saved = tam.check(read(("31", "1"), ("29", "1")))
    assert saved.status_code == 201, saved.json()
    record = saved.json()
    assert record["result"]["result"]["slope_mm"] == pytest.approx(14.5)
    assert (record["grade"], record["result"]["picture"]["draws"]) == ("adjust", "deviations")
    assert tam.get("instruments/LV-07").json()["standing"]["state"] == "hold"
    (point,) = tam.get("instruments/LV-07/series?of=hand-level").json()["points"]
    assert (point["value"], point["use"]) == (pytest.approx(14.5), 5.0)
    assert tam.get(f"records/{record['id']}").json()["broken"] is None
    left = tam.post("documents/as-left", {"document": record["document"], "result": record["result"]["result"]})
    assert left.json()["observations"] == {"sights": [{}, {}]}
    assert tam.check(read(("1", "1"), ("2", "1")), stage="as-left", pair=record["id"]).status_code == 201


def test_its_table_goes_out_and_comes_back(tam: Api) -> None:
    saved = tam.check(read(("31", "1"), ("29", "1"))).json()
    table = tam.get(f"records/{saved['id']}/csv").content.decode()
    assert table.splitlines()[:2] == ["direct_mm,reversed_mm,unit", "31,1,m"]
    back = tam.post("kinds/hand-level/csv", {"text": table}).json()
    assert back["observations"] == read(("31", "1"), ("29", "1"))["observations"]


def test_command_line_and_browser_reduce_it(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "hand.json"
    path.write_text(json.dumps(read(("31", "1"), ("29", "1"))))
    assert main(["reduce", str(path)]) == 0
    assert json.loads(capsys.readouterr().out)["result"]["slope_mm"] == pytest.approx(14.5)
    question = {"verb": "reduce", "document": read(("31", "1"), ("29", "1")), "at": "2027-03-02T06:40:00+00:00"}
    answer = json.loads(dispatch.answer(json.dumps(question)))
    assert answer["data"]["result"]["finding"]["text"].startswith("The line points 14.5 mm up")
    assert main(["schema", "hand-level"]) == 0
