"""The face as drawn: everything that can be told can be drawn, to scale, and told apart."""

import re

import pytest
from hypothesis import given
from lxml import etree

from marquetry.core.face.accord import face_notes
from marquetry.core.face.face import seen_face, seen_part
from marquetry.core.face.on_wrist import worn
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.part import Part
from marquetry.core.sheet.schema import Choice, Flag, Group, Many
from marquetry.drawing.face.face_scene import by_day, by_night, small_face
from marquetry.drawing.face.part_face import ALL_SEEN, part_face
from marquetry.drawing.face.wrist_face import HEIGHT, on_wrist
from marquetry.drawing.front_plate import front_plate
from marquetry.drawing.scene import Circle, Cluster, DividedRing, Inlay, Lettering, Scene
from marquetry.drawing.sheet import Display
from marquetry.drawing.svg import lights, to_svg
from tests.strategies import ANATOMY, case_build, dressed_builds, report_on

USED = re.compile(r"url\(#([\w-]+)\)")
DRAWN_AT = "10:09:36"


def inlays(scene: Scene) -> list[Inlay]:
    return [mark for mark in scene.walk() if isinstance(mark, Inlay)]


def day(build: Build) -> Scene:
    return by_day(seen_face(build, report_on(build)), build.name)


@given(build=dressed_builds())
def test_whatever_is_told_can_be_drawn(build: Build) -> None:
    report = report_on(build)
    face = seen_face(build, report)
    sits = worn(Plausible(build, report.rules))
    scenes = (
        by_day(face, "x"),
        by_night(face, "x", 10.0),
        small_face(face),
        on_wrist(face, sits, DRAWN_AT, "x"),
    )
    defined = set(re.findall(r'id="([\w-]+)"', lights()))
    for scene in (*scenes, front_plate(build, report, Display(view="front"))):
        text = to_svg(scene, standalone=True)
        etree.fromstring(text)
        assert "nan" not in text
        assert "inf" not in text.replace("info", "")
        used = {name for name in USED.findall(text) if name.startswith("li-")}
        assert used <= defined, "every light that is used is there"
    assert len(to_svg(scenes[0], defs=False)) < 60_000


def choices(group: Group, above: str = "") -> list[tuple[str, str | bool]]:
    """Every value that a look may be chosen as, with its path below the face."""
    found: list[tuple[str, str | bool]] = []
    for entry in group.entries:
        path = above + entry.key
        if isinstance(entry, Choice):
            found += [(path, option) for option in entry.options]
        elif isinstance(entry, Flag):
            found += [(path, True), (path, False)]
        elif isinstance(entry, Group):
            found += choices(entry, f"{path}.")
        elif isinstance(entry, Many):
            found += choices(Group("", "", entry.entries), f"{path}.0.")
    return found


def told(kind: str, looks: dict[str, object], path: str, value: object) -> str:
    """The watch with one look told, drawn."""
    build = case_build(17).with_target({})
    for key in ("case", "bezel", "bezel_insert", "crown", "strap", "calendar_disc", "chapter_ring"):
        if not build.has(key):
            build = build.with_entry(key, {})
    build = build.with_entry(f"{kind}.face", looks)
    *way, last = path.split(".")
    node: object = looks
    for step in way:
        node = node[int(step)] if isinstance(node, list) else node[step]  # type: ignore[index]
    assert isinstance(node, dict)
    node[last] = value
    build = build.with_entry(f"{kind}.face", looks)
    return to_svg(day(build), defs=False)


START: dict[str, dict[str, object]] = {
    "dial": {
        "glow": "green",
        "markers": [{"shape": "numerals", "lume": True}],
        "lines": [{"words": "one line"}],
        "logo": {"words": "SF"},
    },
    "hands": {"glow": "green", "hour": {}, "minute": {}, "seconds": {"shape": "lozenge"}, "h24": {}},
    "bezel_insert": {"glow": "green", "scale": "minutes"},
    "strap": {"surface": "leather", "buckle": "pin buckle"},
}
SAME_BY_DAY = {
    ("dial", "glow"),
    ("hands", "glow"),
    ("bezel_insert", "glow"),
    ("dial", "lines.0.letters"),
    ("dial", "markers.0.glow"),
    ("chapter_ring", "glow"),
    *(("hands", f"h24.{look}") for look in ("shape", "lume", "counterweight")),
}
"""What is seen at night only, or of a hand that this watch has not."""


@pytest.mark.parametrize("kind", sorted(kind.key for kind in ANATOMY.kinds if kind.face and not kind.is_many))
def test_every_word_of_the_vocabulary_changes_what_is_seen(kind: str) -> None:
    described = ANATOMY.kind(kind).face
    assert described is not None
    by_path: dict[str, set[str]] = {}
    for path, value in choices(described):
        looks = {key: ([dict(i) for i in v] if isinstance(v, list) else dict(v) if isinstance(v, dict) else v)
                 for key, v in START.get(kind, {}).items()}  # fmt: skip
        by_path.setdefault(path, set()).add(told(kind, looks, path, value))
    alike = {path for path, drawn in by_path.items() if len(drawn) == 1 and (kind, path) not in SAME_BY_DAY}
    assert alike == set()


def test_parts_are_drawn_to_scale_and_told_apart() -> None:
    build = case_build(1).with_entry("dial.track_radius", 12.9)
    dial, hands = (Part.of(ANATOMY.kind(key), build.at(key)) for key in ("dial", "hands"))
    small = part_face(dial, report_on(build).rules)
    assert small is not None
    ground = next(inlay for inlay in inlays(small) if isinstance(inlay.outlines[0], Circle))
    assert isinstance(ground.outlines[0], Circle)
    scale = ground.outlines[0].radius / (dial.dimensions["diameter"].value / 2)
    track = next(mark for mark in small.walk() if isinstance(mark, DividedRing) and mark.count == 60)
    assert track.radius + track.width / 2 == pytest.approx(dial.dimensions["track_radius"].value * scale)
    longer = Part.of(hands.kind, hands.build.with_entry("hands.minute.length", 9.0).at("hands"))
    assert part_face(longer, report_on(build).rules) != part_face(hands, report_on(build).rules)
    assert {kind.key for kind in ANATOMY.kinds if kind.face} == set(ALL_SEEN)
    for kind in ANATOMY.kinds:
        if kind.face:
            nothing = part_face(Part.of(kind, {"name": "x"}), report_on(build).rules, all_kinds=True)
            assert nothing is None or etree.fromstring(to_svg(nothing, standalone=True)) is not None


def test_a_spacer_is_seen_in_its_own_colour_only_on_the_dials_side() -> None:
    def drawn(side: str, colour: str) -> str:
        looks = {"name": "Ring", "side": side, "thickness": 0.4, "inner_diameter": 25.0, "material": colour}
        return to_svg(day(case_build(1).with_entry("spacers", [looks])), defs=False)

    assert drawn("dial", "red PETG") != drawn("dial", "blue PETG"), "the print's material tells its colour"
    assert drawn("movement", "red PETG") == drawn("movement", "blue PETG")
    plain = case_build(1).with_entry("spacers", [{"side": "dial", "thickness": 0.4, "inner_diameter": 25.0}])
    red = plain.with_entry("spacers.0.face.colour", "red")
    assert to_svg(day(red), defs=False) != to_svg(day(plain), defs=False), "and so does what is chosen"


@pytest.mark.parametrize(
    ("cutout", "shown"),
    [
        (
            {"shape": "rectangle", "for": "date", "at_radius": 10.3, "angle": 90, "width": 2, "height": 3},
            "28",
        ),
        ({"shape": "rectangle", "for": "day", "at_radius": 8.0, "angle": 0, "width": 5, "height": 2}, "FRI"),
        (
            {"shape": "arc", "for": "h24", "inner_radius": 5.7, "outer_radius": 7.9, "from": 200, "to": 340},
            "10",
        ),
        ({"shape": "round", "for": "open", "at_radius": 7.0, "angle": 45, "diameter": 3}, ""),
    ],
)
def test_what_is_cut_into_a_dial_shows_what_lies_beneath_by_day_and_a_hole_by_night(
    cutout: dict[str, object], shown: str
) -> None:
    build = case_build(1).with_entry("movement.functions", ["hours", "minutes", "date", "day"])
    build = build.with_entry("movement.h24_disc", {"inner_radius": 5.5, "outer_radius": 8.1})
    whole = build.with_entry("dial.windows", [])
    cut = whole.with_entry("dial.cutouts", [cutout])
    words = [mark.text for mark in day(cut).walk() if isinstance(mark, Lettering)]
    plain = [mark.text for mark in day(whole).walk() if isinstance(mark, Lettering)]
    assert shown in words if shown else {*words} == {*plain}
    faces = [seen_face(each, report_on(each)) for each in (whole, cut)]
    assert by_night(faces[0], "x", 10.0) != by_night(faces[1], "x", 10.0)
    assert len(to_svg(by_night(faces[1], "x", 10.0))) > len(to_svg(by_night(faces[0], "x", 10.0)))


def test_a_buckle_of_another_finish_than_its_case_is_told() -> None:
    def notes(finish: str) -> list[str]:
        build = case_build(17).with_entry("case.face", {"finish": "blasted"})
        looks = {"buckle": "pin buckle", "buckle_finish": finish}
        build = build.with_entry("strap.face", {"surface": "textile", **looks})
        return [
            note.words for note in face_notes(seen_face(build, report_on(build))) if "buckle" in note.words
        ]

    assert notes("polished") == ["Finishes side by side: case blasted, buckle polished."]
    assert notes("blasted") == []


def test_the_hands_show_the_time_and_throw_shadows_by_their_heights() -> None:
    build = case_build(1)
    face = seen_face(build, report_on(build))
    noon, quarter = (by_day(face, "x", time) for time in ("12:00:00", "12:15:00"))
    assert noon != quarter
    shades = [
        inlay for inlay in inlays(noon) if inlay.paint == "#000" and inlay.opacity == pytest.approx(0.32)
    ]
    assert len(shades) == len(face.hands)
    tops = [
        max(y for outline in shade.outlines if isinstance(outline, tuple) for _, y in outline)
        for shade in shades
    ]
    lengths = [hand.length for hand in face.hands]
    centre = noon.height / 2
    for top, length, hand in zip(tops, lengths, face.hands, strict=True):
        fall = (centre + 2 * length - top) / 2
        if hand.key != "seconds":
            assert fall == pytest.approx(0.85 * hand.height * 0.7431, rel=0.01), "cos 42°, at twice the size"


def test_only_what_glows_is_seen_at_night_and_less_and_less() -> None:
    build = case_build(1).with_entry(
        "dial.face", {"glow": "blue", "markers": [{"lume": True}, {"shape": "dot"}]}
    )
    build = build.with_entry("hands.face", {"glow": "green"})
    face = seen_face(build, report_on(build))
    lit = [by_night(face, "x", minutes) for minutes in (0.0, 60.0, 600.0)]
    colours = [{inlay.paint for inlay in inlays(scene) if len(inlay.paint) == 7} for scene in lit]
    assert len(colours[0]) > len({"#0a0b0d", "#050607"}), "two pastes at least"
    brightness = [max(int(paint[3:5], 16) for paint in found) for found in colours]
    assert brightness == sorted(brightness, reverse=True)
    dark = (
        case_build(1)
        .with_entry("dial.face", {"glow": "nothing"})
        .with_entry("hands.face", {"glow": "nothing"})
    )
    unlit = by_night(seen_face(dark, report_on(dark)), "x", 0.0)
    assert {inlay.paint for inlay in inlays(unlit)} <= {"#0a0b0d", "#050607", "none"}


def test_the_wrist_is_at_true_scale() -> None:
    build = case_build(16).with_target({"wrist_circumference_mm": 172})
    report = report_on(build)
    face, sits = seen_face(build, report), worn(Plausible(build, report.rules))
    scene = on_wrist(face, sits, DRAWN_AT, "x")
    assert scene.height == HEIGHT
    arm = next(inlay for inlay in inlays(scene) if inlay.paint == "#e3c6a8")
    assert isinstance(arm.outlines[0], tuple)
    ys = [y for _, y in arm.outlines[0]]
    assert (max(ys) - min(ys)) == pytest.approx(1.05 * sits.wide)
    ring = max(c.radius for inlay in inlays(scene) for c in inlay.outlines if isinstance(c, Circle))
    assert face.bezel is not None
    assert ring == pytest.approx(max(face.bezel.outer, face.case.radius if face.case else 0.0))


def test_words_printed_on_a_dial_are_escaped_and_grouped() -> None:
    lines = [{"words": '<b>"&', "above": 4}, {"words": "plain", "below": 4}]
    build = case_build(1).with_entry("dial.face", {"lines": lines})
    scene = day(build)
    text = to_svg(scene, standalone=True)
    root = etree.fromstring(text)
    printed = [node.text for node in root.iter("{*}text")]
    assert '<b>"&' in printed
    assert "plain" in printed
    up = {mark.text: mark.at[1] for mark in scene.walk() if isinstance(mark, Lettering)}
    assert up['<b>"&'] - up["plain"] == pytest.approx(16.0), "four mm above and below, at twice the size"


def test_words_that_no_look_knows_are_kept_and_drawn_as_if_not_said() -> None:
    strange = '"><b>'
    for kind in ANATOMY.kinds:
        if kind.face is None or kind.is_many:
            continue
        looks = {
            key: [dict(i) for i in v] if isinstance(v, list) else v
            for key, v in START.get(kind.key, {}).items()
        }
        plain = told(kind.key, dict(looks), "unheard_of", "nothing")
        for path, value in choices(kind.face):
            if not isinstance(value, str) or path.partition(".")[0] in {"markers", *looks}:
                continue
            kept = {key: dict(v) if isinstance(v, dict) else v for key, v in looks.items()}
            if "." in path:
                kept.setdefault(path.partition(".")[0], {} if path[0] not in "ml" else [{}])
            drawn = told(kind.key, kept, path, strange)
            assert strange not in drawn
            etree.fromstring(drawn.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1))
            assert "." in path or drawn == plain, path
    lettered = told(
        "dial", {"markers": [{"shape": "numerals"}], "lines": [{"words": "x"}]}, "markers.0.letters", strange
    )
    assert strange not in lettered


def test_the_front_is_shown_as_it_looks_or_as_it_is_measured() -> None:
    build = case_build(1)
    report = report_on(build)
    for measured, expected in ((False, "face"), (True, "bodies")):
        scene = front_plate(build, report, Display(view="front", measured=measured))
        groups = {mark.classes for mark in scene.walk() if isinstance(mark, Cluster)}
        assert ({"face", "bodies"} & groups) == {expected}
    assert seen_part(build, report.rules).dial == seen_face(build, report).dial
