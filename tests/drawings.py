"""The drawings in docs/drawings, made by the program itself: `make drawings` writes them, a test compares."""

from pathlib import Path

from marquetry.core.sheet.build import Build
from marquetry.demo.workshop import demo_builds
from marquetry.drawing.gap_detail import gap_detail
from marquetry.drawing.plate import plate
from marquetry.drawing.sheet import Display
from marquetry.drawing.svg import to_svg
from tests.strategies import ANATOMY, MODEL, report_on

FOLDER = Path(__file__).parents[1] / "docs" / "drawings"
DETAILS = ("dial_cover", "stem_height", "holder_clamp", "crystal_squeeze", "insert_recess")


def drawings() -> dict[str, str]:
    """File name and SVG of every drawing in the documents."""
    skerry, ferry, orchard = demo_builds(ANATOMY)
    plates: dict[str, tuple[Build, Display]] = {
        "section": (ferry, Display(chosen="stem_height")),
        "hands": (ferry, Display(view="hands", stretch=1.0, chosen="hand_stack")),
        "front": (skerry, Display(view="front")),
        "dial-back": (orchard, Display(view="back")),
    }
    made = {
        f"{name}.svg": to_svg(plate(build, report_on(build), display), standalone=True)
        for name, (build, display) in plates.items()
    }
    for check in DETAILS:
        scene = gap_detail(MODEL, check)
        if scene is not None:
            made[f"{check}.svg"] = to_svg(scene, standalone=True)
    return made


if __name__ == "__main__":
    for name, text in drawings().items():
        (FOLDER / name).write_text(text, "utf-8")
