"""Every kind of check through the server: saved and sealed, who may adjust, standings of many checks, their series."""

from __future__ import annotations

import json
import random
from datetime import date
from typing import Any

import pytest

from fleet.models import Instrument, InstrumentModel
from naveta_core.checks import KINDS
from naveta_core.registry import document_of
from naveta_sim import simulate
from records.models import Record
from tests.core.plain import reduce_of

from .conftest import Api, good

FOUR = (0, 90, 180, 270)
ROWS = sorted(set(KINDS) - {"two-peg"})
THINGS = {
    "TD-01": (
        "theodolite",
        {
            "angle_accuracy_arcsec": 5.0,
            "plummet": "optical",
            "plummet_place": "turning",
            "plate_vial_arcsec_per_div": 30,
            "plunges": False,
        },
    ),
    "TS-01": ("total-station", {"angle_accuracy_arcsec": 3.0, "plummet": "optical", "electronic_level_step_arcsec": 1}),
    "TS-02": ("robotic-total-station", {"angle_accuracy_arcsec": 3.0, "plummet": "none"}),
    "PO-01": ("pole", {}),
    "ST-01": ("staff", {}),
    "TR-01": ("tripod", {}),
    "TA-01": ("tape", {}),
}
OF = {
    "circular-vial": "TD-01",
    "plate-vial": "TD-01",
    "plummet": "TD-01",
    "dual-axis-level": "TS-01",
    "compensator-function": "LV-07",
    "two-face": "TS-01",
    "tracker": "TS-02",
    "direction-rounds": "TS-01",
    "direction-accuracy": "TS-01",
    "levelling-accuracy": "LV-07",
    "pole-vial": "PO-01",
    "staff": "ST-01",
    "tripod": "TR-01",
    "tape": "TA-01",
}
TRUTH: dict[str, dict[str, Any]] = {
    "circular-vial": {"headings": FOUR, "noise": 0.3},
    "pole-vial": {"headings": FOUR, "noise": 0.3},
    "dual-axis-level": {"headings": FOUR, "noise": 0.3},
    "plate-vial": {"noise": 0.3},
    "plummet": {"noise": 0.3, "headings": FOUR * 2},
}


@pytest.fixture
def things(firm: Any) -> None:
    for tag, (kind, stated) in THINGS.items():
        model = InstrumentModel.objects.create(maker="Marrick", name=f"Model {tag}", kind=kind, stated=stated)
        Instrument.objects.create(tag=tag, model=model, since=date(2025, 3, 1))


def simulated(kind: str, seed: int = 1, **truth: Any) -> dict[str, Any]:
    return simulate(kind, random.Random(seed), {**TRUTH.get(kind, {}), **truth})


def save(api: Api, kind: str, document: dict[str, Any], at: str = "2027-03-02T06:40:00+00:00", **more: Any) -> Any:
    return api.check(document, instrument=OF[kind], at=at, **more)


def standing(api: Api, tag: str) -> dict[str, str]:
    found = api.get(f"instruments/{tag}").json()["standing"]
    return {"": found["state"], **{check["check"]: check["state"] for check in found["checks"]}}


@pytest.mark.parametrize("kind", ROWS)
def test_a_check_is_stored_as_it_was_shown_and_its_record_alone_says_the_same(
    tam: Api, things: None, kind: str
) -> None:
    document = simulated(kind)
    shown = tam.post("preview", {"instrument": OF[kind], "document": document}).json()
    assert shown["complete"]
    saved = save(tam, kind, document)
    assert saved.status_code == 201, saved.json()
    record = saved.json()
    assert record["result"] == shown["reduced"]
    assert reduce_of(kind, document_of(record["document"])) == record["result"]
    assert record["document"]["instrument"]["kind"] == THINGS.get(OF[kind], ("level", {}))[0]
    assert Record.objects.get().kind == kind
    table = tam.get(f"records/{record['id']}/csv").content.decode()
    back = tam.post(f"kinds/{kind}/csv", {"text": table}).json()
    assert (
        reduce_of(kind, document_of({**record["document"], "observations": back["observations"]})) == record["result"]
    )


@pytest.mark.parametrize("kind", ROWS)
def test_what_cannot_be_read_is_refused_whole(tam: Api, things: None, kind: str) -> None:
    document = simulated(kind)
    document.pop("conditions", None)
    text = json.dumps(document)
    at = text.rindex('": "') + 4
    spoiled = json.loads(text[:at] + "1.2.3" + text[text.index('"', at) :])
    answer = save(tam, kind, spoiled)
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"].startswith("observations.")
    assert answer.json()["faults"][0]["given"] == "1.2.3"
    assert Record.objects.count() == 0


def test_an_instrument_is_offered_the_methods_it_can_be_taken_by(tam: Api, things: None) -> None:
    methods = tam.get("instruments/TD-01").json()["methods"]
    assert list(methods) == tam.get("instruments/TD-01").json()["checks"]
    assert "tribrach-thirds" not in methods["plummet"], "TD-01's plummet turns with it"
    assert methods["plummet"][0] == "four-quarters"
    assert tam.get("instruments/LV-07").json()["methods"]["two-peg"][0] == "middle-then-near"


def test_a_new_index_asks_for_what_was_measured_through_it(tam: Api, things: None) -> None:
    def checked(kind: str, at: str, **truth: Any) -> Any:
        return save(tam, kind, simulated(kind, **truth), at=f"2027-03-01T{at}:00+00:00")

    assert checked("two-face", "06:00", c=0.0, i=0.0).json()["grade"] in ("use", "watch")
    found = checked("dual-axis-level", "06:20", index_arcsec=(14, -3)).json()
    assert found["grade"] == "adjust"
    response = tam.post("checks/adjusting", {"instrument": "TS-01", "document": found["document"], "reads_now": []})
    assert response.status_code == 200, response.json()
    assert (response.json()["inputs"], response.json()["allowed"]) == (["along", "across"], True)
    assert "level calibration" in response.json()["text"]
    stored = tam.event("adjusted", "2027-03-01T06:30:00+00:00", instrument="TS-01", record=found["id"], steps=["12 -2"])
    assert stored.status_code == 201, stored.json()
    checked("dual-axis-level", "06:40", index_arcsec=(0, 0))
    checks = tam.get("instruments/TS-01").json()["standing"]["checks"]
    faces = next(check for check in checks if check["check"] == "two-face")
    assert (faces["state"], faces["reasons"][0]["code"]) == ("check-first", "measured-through")
    checked("two-face", "07:10", c=0.0, i=0.0)
    assert standing(tam, "TS-01")["two-face"] in ("ready", "ready-if")


def test_the_manager_states_how_a_model_stores_and_the_sign_follows(ines: Api, tam: Api, things: None) -> None:
    assert tam.put("instruments/TS-01/storing", {"stores": "error"}).json()["code"] == "manager-only"
    refused = ines.put("instruments/TS-01/storing", {"stores": "sideways", "storable_arcsec": "1.2.3"})
    assert refused.status_code == 422
    assert {fault["path"] for fault in refused.json()["faults"]} == {"stores", "storable_arcsec"}
    stated = ines.put("instruments/TS-01/storing", {"stores": "correction", "storable_arcsec": "120"}).json()["stated"]
    assert (stated["stores"], stated["storable_arcsec"], stated["angle_accuracy_arcsec"]) == ("correction", 120.0, 3.0)
    document = simulated("two-face", c=20.0, i=0.0, noise=0.2)
    document["observations"] |= {
        "before_collimation_arcsec": "5",
        "before_index_arcsec": "0",
        "before_tilting_axis_arcsec": "0",
    }
    text = tam.post("checks/adjusting", {"instrument": "TS-01", "document": document, "reads_now": []}).json()["text"]
    assert "c from +5.0″ to −1" in text, "five less about twenty"
    assert "stores" not in ines.put("instruments/TS-01/storing", {}).json()["stated"], "and it can be unsaid"


def test_a_firm_may_judge_two_faces_by_the_raw_difference(ines: Api, tam: Api, things: None) -> None:
    document = simulated("two-face", c=4.0, i=0.0, noise=0.2)
    plain = tam.post("preview", {"instrument": "TS-01", "document": document}).json()["reduced"]
    assert tam.put("organisation", {"judge_raw": True}).json()["code"] == "manager-only"
    assert ines.put("organisation", {"judge_raw": True}).json()["judge_raw"] is True
    assert tam.get("session").json()["judge_raw"] is True
    raw = tam.post("preview", {"instrument": "TS-01", "document": document}).json()["reduced"]
    limits = [
        next(part for part in found["verdict"]["parts"] if part["quantity"] == "collimation_arcsec")["limits"]["use"]
        for found in (plain, raw)
    ]
    assert limits == [6.0, 3.0]
    kept = save(tam, "two-face", document).json()
    assert kept["document"]["instrument"]["judged_raw"] is True, "the record says by what it was judged"
    assert tam.get("device").json()["judged_raw"] is True, "and a device without signal judges alike"
    ines.put("organisation", {"judge_raw": False})
    assert "judged_raw" not in save(tam, "two-face", document).json()["document"]["instrument"]


def test_the_kinds_say_how_they_are_entered(tam: Api) -> None:
    kinds = {kind["kind"]: kind for kind in tam.get("kinds").json()}
    assert list(kinds) == list(KINDS)
    assert [method["name"] for method in kinds["two-peg"]["methods"]][-2:] == ["outside-both", "free"]
    plummet = kinds["plummet"]
    assert [method["name"] for method in plummet["methods"]][:2] == ["four-quarters", "half-turn"]
    marks = plummet["methods"][0]["groups"][1]
    assert (marks["path"], marks["rows"], [field["name"] for field in marks["fields"]]) == (
        "observations.sets[0].marks",
        True,
        ["heading_deg", "x_mm", "y_mm"],
    )
    assert marks["fields"][0]["prefilled"]
    assert plummet["methods"][0]["caution"][-1]["code"] == "local-rules"
    schema = tam.get("kinds/plummet/schema").json()
    assert schema["properties"]["kind"]["const"] == "plummet"


def test_an_instrument_stands_by_all_its_checks(tam: Api, things: None) -> None:
    assert standing(tam, "TD-01") == {
        "": "check-first",
        "circular-vial": "check-first",
        "plate-vial": "check-first",
        "plummet": "check-first",
    }
    save(tam, "plate-vial", simulated("plate-vial"))
    assert standing(tam, "TD-01")[""] == "check-first", "the plummet was never looked at"
    save(tam, "plummet", simulated("plummet"))
    assert standing(tam, "TD-01") == {
        "": "ready",
        "plate-vial": "ready",
        "plummet": "ready",
        "circular-vial": "check-first",
    }
    # A circular bubble that was never looked at stops nothing; one that was found bad does.
    save(tam, "circular-vial", simulated("circular-vial", error_mm=(2.5, 0.0)))
    assert standing(tam, "TD-01")[""] == "hold"
    latest = tam.get("instruments/TD-01").json()["latest"]
    assert (latest["check"], latest["grade"], latest["unit"]) == ("circular-vial", "adjust", "mm")
    tam.event("knock", "2027-03-02T07:00:00+00:00", instrument="TD-01")
    assert standing(tam, "TD-01")["plummet"] == "check-first"


def test_old_passes_of_one_kind_do_not_hide_behind_new_ones_of_another(tam: Api, things: None) -> None:
    save(tam, "plummet", simulated("plummet"), at="2026-12-15T07:00:00+00:00")
    for day in range(1, 15):
        save(tam, "plate-vial", simulated("plate-vial", seed=day), at=f"2027-02-{day:02d}T07:00:00+00:00")
    assert standing(tam, "TD-01") == {
        "": "ready",
        "plate-vial": "ready",
        "plummet": "ready",
        "circular-vial": "check-first",
    }
    derived = Instrument.objects.get(tag="TD-01").derived
    assert {check["check"] for check in derived["done"]} == {"plummet", "plate-vial"}


def test_who_may_adjust_what(tam: Api, ines: Api, things: None) -> None:
    """Vial and reticle the crew, the plummet the manager, a compensator nobody in the field."""
    plummet = save(tam, "plummet", simulated("plummet", offset_mm=(2.5, 0.0))).json()
    assert plummet["grade"] == "adjust"
    fields = {"instrument": "TD-01", "record": plummet["id"], "steps": ["0.1 0.1"]}
    refused = tam.event("adjusted", "2027-03-02T07:00:00+00:00", **fields)
    assert (refused.status_code, refused.json()["code"]) == (403, "not-yours-to-adjust")
    assert ines.event("adjusted", "2027-03-02T07:00:00+00:00", **fields).status_code == 201
    vial = save(tam, "plate-vial", simulated("plate-vial", rest_div=3.0)).json()
    done = {"instrument": "TD-01", "record": vial["id"]}
    assert tam.event("adjusted", "2027-03-02T07:10:00+00:00", **done).status_code == 201
    stuck = save(tam, "compensator-function", simulated("compensator-function", shift_arcsec={"left": 40.0})).json()
    assert stuck["grade"] == "service"
    nobody = ines.event("adjusted", "2027-03-02T07:20:00+00:00", instrument="LV-07", record=stuck["id"])
    assert nobody.status_code == 403


def test_the_act_of_adjusting_is_led_by_the_core_and_a_kind_without_screws_says_so(tam: Api, things: None) -> None:
    document = simulated("plummet", offset_mm=(2.0, 0.0), axis_mm=(3.0, 2.0), headings=(0, 180), noise=0.0)
    answer = tam.post(
        "checks/adjusting", {"instrument": "TD-01", "document": document, "reads_now": ["3.0 2.0"]}
    ).json()
    assert (answer["inputs"], answer["target_text"], answer["steps"][0]["done"]) == (
        ["right", "away"],
        "3.0, 2.0",
        True,
    )
    none = tam.post("checks/adjusting", {"instrument": "TA-01", "document": simulated("tape"), "reads_now": []})
    assert (none.status_code, none.json()["faults"][0]["path"]) == (422, "kind")


def test_an_adjusted_plummet_leaves_the_vials_history_alone(tam: Api, ines: Api, things: None) -> None:
    save(tam, "plate-vial", simulated("plate-vial", rest_div=-1.4), at="2027-02-20T07:00:00+00:00")
    found = save(ines, "plummet", simulated("plummet", offset_mm=(2.5, 0.0)), at="2027-03-01T07:00:00+00:00").json()
    ines.event("adjusted", "2027-03-01T07:30:00+00:00", instrument="TD-01", record=found["id"])
    again = save(
        tam, "plate-vial", simulated("plate-vial", seed=2, rest_div=-1.4), at="2027-03-02T06:00:00+00:00"
    ).json()
    assert [earlier["check"] for earlier in again["document"]["before"]] == ["plate-vial"]
    assert again["grade"] == "use", "the rest position repeats"
    left = simulated("plummet", seed=3)
    saved = save(ines, "plummet", left, at="2027-03-01T08:00:00+00:00", stage="as-left", pair=found["id"]).json()
    assert "before" not in saved["document"] or all(
        earlier["check"] != "plummet" for earlier in saved["document"]["before"]
    )


def test_a_check_says_the_next_set_up_what_is_in_force(tam: Api, things: None) -> None:
    save(tam, "plate-vial", simulated("plate-vial", rest_div=-1.2, noise=0.0))
    save(tam, "plummet", simulated("plummet", offset_mm=(0.9, 0.0), noise=0.0))
    document = {
        "kind": "set-up",
        "observations": {"method": "plummet-first", "mark": {"name": "PC-07"}, "options": {"level_type": "plate"}},
    }
    guide = tam.post("set-up/guide", {"instrument": "TD-01", "document": document, "step": "plate"}).json()
    assert any(hint["code"] == "rest-known" and "−1.2 div" in hint["text"] for hint in guide["tips"])
    last = tam.post("set-up/guide", {"instrument": "TD-01", "document": document, "step": "final-check"}).json()
    assert any(hint["code"] == "plummet-known" for hint in last["tips"])
    device = {instrument["tag"]: instrument for instrument in tam.get("device").json()["fleet"]}
    kept = [record["result"] for record in device["TD-01"]["history"]]
    assert {"reversal_div", "offset_x_mm"} <= {name for record in kept for name in record}


def test_series_of_each_kind_have_their_own_title_and_unit(tam: Api, things: None) -> None:
    save(tam, "plate-vial", simulated("plate-vial", rest_div=0.7, noise=0.0))
    save(tam, "plummet", simulated("plummet"))
    vial = tam.get("instruments/TD-01/series?of=plate-vial").json()
    assert (vial["title"], vial["unit"], vial["unit_label"]) == ("Plate level check", " div", "divisions")
    assert [round(point["value"], 1) for point in vial["points"]] == [0.7]
    assert len(tam.get("instruments/TD-01/series?of=plummet").json()["points"]) == 1
    assert tam.get("instruments/TD-01/series?of=two-peg").json()["points"] == []
    wrong = tam.get("instruments/TD-01/series?of=moon")
    assert (wrong.status_code, wrong.json()["faults"][0]["path"]) == (422, "of")


def test_a_look_back_is_of_its_own_kind(tam: Api, things: None) -> None:
    save(tam, "plate-vial", simulated("plate-vial"), at="2027-02-25T07:00:00+00:00")
    save(tam, "plummet", simulated("plummet"), at="2027-02-10T07:00:00+00:00")
    tam.event("out", "2027-02-12T07:00:00+00:00", instrument="TD-01")
    found = save(tam, "plummet", simulated("plummet", offset_mm=(3.0, 0.0))).json()
    answer = tam.get(f"records/{found['id']}/impact-review").json()
    assert "10 Feb 2027" in answer["text"]
    assert answer["taken_out"] == 1
    assert answer["effects"][0]["text"].startswith("Set up at 1.3 m, it centres")


def test_a_level_still_stands_by_its_peg_test(tam: Api) -> None:
    tam.check(good())
    never = {"circular-vial": "check-first", "compensator-function": "check-first"}
    found = {"levelling-accuracy": "ready", "two-peg": "ready", **never}
    # A compensator that was never looked at holds it back, a circular level does not.
    assert standing(tam, "LV-07") == {"": "check-first", **found}
    tam.compensators("LV-07")
    assert standing(tam, "LV-07") == {"": "ready", **found, "compensator-function": "ready"}
