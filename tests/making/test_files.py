"""Files of made parts read again by others: DXF by its own library, PDF by poppler, JSON by ourselves."""

import json
import math
import subprocess
from io import StringIO
from pathlib import Path

import numpy as np
import pytest
from ezdxf.filemanagement import read as read_dxf
from lxml import etree
from numpy.typing import NDArray
from PIL import Image

from marquetry.core.making.body import made_body
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.outline import ArcEdge, CircleEdge
from marquetry.core.making.printer import PrinterPair, printer_fit
from marquetry.core.making.support import heat_fit
from marquetry.core.values.errors import MarquetryError
from marquetry.formats.dxf import dxf_text
from marquetry.formats.made_files import endings_of, made_file
from marquetry.formats.made_part import made_text, read_made
from marquetry.formats.printer_csv import pairs_text, read_pairs
from tests.making.test_solids import ADAPTER, DIAL, HOLDER, SPACER, SUPPORT, part
from tests.strategies import MODEL

Shapes = list[tuple[str, str, float]]
HOLE = {"radius": 12.6, "angle": 0, "diameter": 0.8}
HOLES = {"movement": {"diameter": 27.0, "foot_hole_depth": 1.6, "foot_holes": [HOLE]}}


def shapes(name: str, parts: dict[str, object]) -> Shapes:
    """Kind, layer and radius of every round entity, as another program reads the file."""
    document = read_dxf(StringIO(dxf_text(made_body(part(name, parts)).drawing)))
    assert document.header["$INSUNITS"] == 4
    assert not document.audit().errors
    return [
        (e.dxftype(), e.dxf.layer, round(e.dxf.radius, 6)) for e in document.modelspace().query("CIRCLE ARC")
    ]


ROUND = [
    ("holder", HOLDER, {("CIRCLE", 14.55), ("ARC", 13.55), ("ARC", 13.95)}, {("CIRCLE", 13.95)}),
    ("spacer:1", SPACER, {("ARC", 14.0), ("ARC", 12.0)}, {("CIRCLE", 14.0), ("CIRCLE", 12.0)}),
    ("dial", DIAL, {("CIRCLE", 14.25), ("CIRCLE", 1.0), ("CIRCLE", 2.5), ("ARC", 6.0), ("CIRCLE", 0.35)}, {("ARC", 1.0)}),
    ("dial-adapter", ADAPTER, {("ARC", 14.2), ("CIRCLE", 2.0), ("CIRCLE", 0.37), ("CIRCLE", 1.5)}, {("CIRCLE", 14.2)}),
    ("press-support", SUPPORT, {("CIRCLE", 21.05), ("CIRCLE", 18.05), ("CIRCLE", 2.5)}, set()),
    ("drilling-sheet", {**DIAL, **HOLES}, {("CIRCLE", 13.5), ("CIRCLE", 0.4)}, set()),
]  # fmt: skip


@pytest.mark.parametrize(("name", "parts", "there", "absent"), ROUND, ids=[row[0] for row in ROUND])
def test_circles_keep_their_exact_radius_and_are_arcs_only_where_broken(
    name: str, parts: dict[str, object], there: set[tuple[str, float]], absent: set[tuple[str, float]]
) -> None:
    found = {(kind, radius) for kind, _, radius in shapes(name, parts)}
    assert there <= found
    assert not absent & found


def test_holes_are_on_their_own_layer_and_the_drill_is_wider_than_the_foot() -> None:
    drilled = [radius for _, layer, radius in shapes("drilling-sheet", {**DIAL, **HOLES}) if layer == "HOLE"]
    assert drilled == [0.4, 0.4]  # foot Ø 0.70 and 0.10, in front and mirrored
    assert ("CIRCLE", "HOLE", 1.0) in shapes("dial", DIAL)


def test_arcs_and_circles_of_a_face_add_up_to_what_the_slot_leaves() -> None:
    """Round a broken circle the arcs' sweeps and the slot's angle make a whole turn."""
    front, back = made_body(part("holder", HOLDER)).drawing.views
    assert [e for e in front.edges if isinstance(e, CircleEdge) and e.radius == 14.55]
    arcs = [e for loop in back.faces[-2] for e in loop if isinstance(e, ArcEdge) and e.radius == 13.95]
    slot = 2 * math.degrees(math.asin(1.2 / 13.95))
    assert sum(arc.sweep for arc in arcs) == pytest.approx(360 - slot, abs=0.05)


def test_the_square_is_10_mm_on_both_papers(tmp_path: Path) -> None:
    made = part("spacer:1", SPACER)
    (tmp_path / "a.pdf").write_bytes(made_file(made, made_body(made), "pdf"))
    subprocess.run(["pdftoppm", "-r", "300", "-gray", tmp_path / "a.pdf", tmp_path / "p"], check=True)  # noqa: S607  # found above
    pages = sorted(tmp_path.glob("p-*.pgm"))
    drawn = [_pixels(page) for page in pages]
    sizes = [(page.shape[1], page.shape[0]) for page in drawn]
    assert np.array(sizes) == pytest.approx(np.array([(2480, 3508), (2550, 3300)]), abs=1)
    for page in drawn:
        dark = page < 128
        corner = dark[-round(26 / 25.4 * 300) :, : round(26 / 25.4 * 300)]
        for lines in (corner.sum(axis=0), corner.sum(axis=1)):
            at = np.nonzero(lines > 100)[
                0
            ]  # the two lines of the square on this axis, a few pixels wide each
            first, second = at[at < at[0] + 10].mean(), at[at > at[0] + 60].mean()
            assert abs(second - first - 118.11) <= 1


def _pixels(file: Path) -> NDArray[np.uint8]:
    with Image.open(file) as page:
        return np.array(page)


def test_an_svg_is_in_millimetres_of_paper_and_draws_circles_to_true_size() -> None:
    made = part("drilling-sheet", {**DIAL, **HOLES})
    drawn = etree.fromstring(made_file(made, made_body(made), "svg"))
    assert (drawn.get("width"), drawn.get("height")) == ("210mm", "297mm")
    radii = [float(c.get("r", "0")) for c in drawn.iter("{http://www.w3.org/2000/svg}circle")]
    assert radii.count(13.5) == 2


@pytest.mark.parametrize(("name", "parts"), [("holder", HOLDER), ("spacer:1", SPACER), ("dial", DIAL)])
def test_the_description_reads_back_without_loss(name: str, parts: dict[str, object]) -> None:
    made = part(name, parts)
    again = read_made(made_text(made), MODEL.rules_of(made.build))
    assert (again.name, again.build) == (made.name, made.build)
    assert made_text(again) == made_text(made)
    assert set(endings_of(made)) == {"stl", "3mf", "dxf", "svg", "pdf", "json"}


@pytest.mark.parametrize("text", ["{}", '{"format": "marquetry-made/1", "part": "holder"}', "[]", "x"])
def test_another_file_is_no_made_part(text: str) -> None:
    with pytest.raises(MarquetryError):
        read_made(text, MODEL.rules_of(part("dial", DIAL).build))


def test_notes_tell_walls_layers_and_what_hangs() -> None:
    told = " ".join(part("holder", HOLDER).notes(PrintSetting(nozzle=0.4, layer=0.2)))
    assert "beside the back is 0.40" in told
    assert "Tab 1 hangs in mid-air" in told  # 13.55 − 12.60
    assert "0.95" in told
    assert "2.75 prints as 2.80" in told
    assert "Tab 2 hangs" not in told
    assert "three o'clock" not in told
    assert "three o'clock" in " ".join(part("holder", {**HOLDER, "case": {}}).notes(PrintSetting()))


PAIRS = tuple(
    PrinterPair("P", "M", "inner", asked, came) for asked, came in [(20, 19.9), (24, 23.88), (28, 27.89)]
)
FITS = [  # pairs, wanted, a, b, s, nominal, u: worked out by hand and with a table of sums
    (PAIRS, 27.1, -0.08, 0.99875, math.sqrt(0.00015), 27.214018, 0.01578),
    (PAIRS[:2], 27.1, -0.11, 1.0, math.sqrt(0.0002), 27.21, math.sqrt(0.0002) * math.sqrt(1.5)),
    (PAIRS[:1], 27.1, -0.10, 1.0, None, 27.2, None),
]  # fmt: skip


@pytest.mark.parametrize(("pairs", "wanted", "a", "b", "s", "nominal", "u"), FITS)
def test_what_to_ask_a_printer_for(  # noqa: PLR0913, PLR0917  # a row of the table
    pairs: tuple[PrinterPair, ...],
    wanted: float,
    a: float,
    b: float,
    s: float | None,
    nominal: float,
    u: float | None,
) -> None:
    others = (PrinterPair("P", "M", "outer", 20, 25.0), PrinterPair("Q", "M", "inner", 20, 25.0))
    fit = printer_fit((*pairs, *others), "P", "M", "inner")
    assert [fit.a, fit.b] == pytest.approx([a, b], abs=1e-9)
    assert fit.s == (None if s is None else pytest.approx(s, rel=1e-4))
    assert fit.nominal_for(wanted) == pytest.approx(nominal, abs=1e-5)
    assert fit.doubt_at(nominal) == (None if u is None else pytest.approx(u, abs=2e-4))
    assert fit.a + fit.b * fit.nominal_for(wanted) == pytest.approx(wanted, abs=1e-12)


def test_pairs_are_read_as_they_are_written_and_strange_ones_refused() -> None:
    assert read_pairs(pairs_text(PAIRS).encode()) == PAIRS
    long = b"printer, material, kind, nominal, measured\nP, M, inner, 27.083333333333332, 26.98\n"
    assert read_pairs(long)[0].nominal == 27.083333333333332
    for bad in (
        b"printer,material,kind,nominal,measured\nP,M,inner,nan,2\n",
        b"printer,material,kind,nominal,measured\nP,M,inner,-3,2\n",
        b"a,b\n",
        b"printer,material,kind,nominal,measured\nP,M,inner,x,2\n",
        b"\xff\xfe",
    ):
        with pytest.raises(MarquetryError):
            read_pairs(bad)
    with pytest.raises(MarquetryError, match="Z"):
        printer_fit(PAIRS, "Z", "M", "inner")


def test_heat_gives_little() -> None:
    """A steel bore of 30 mm warmed by 60 K, sapphire cooled by 40 K: 0.0288 and 0.00636 mm."""
    fit = heat_fit(30.0, "steel 316", "sapphire", 60.0, 40.0)
    assert [fit.bore_grows, fit.part_shrinks] == pytest.approx([0.0288, 0.00636])


def test_json_of_the_command_names_every_file(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    from marquetry.cli import main  # noqa: PLC0415  # heavy, one test

    sheet = tmp_path / "sheet.json"
    sheet.write_text(json.dumps({"format": "marquetry-build/1", "name": "Try", "parts": SPACER}), "utf-8")
    assert main(["make", str(sheet), "spacer:1", "--out", str(tmp_path / "out"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["watertight"] is True
    assert told["bounds_mm"] == [
        [-14.0, pytest.approx(-14.0, abs=0.01), -0.5],
        [14.0, pytest.approx(14.0), 0.0],
    ]
    assert all(Path(path).is_file() for path in told["files"].values())
    assert main(["make", told["files"]["json"], "spacer:1", "--out", str(tmp_path / "again")]) == 0
    capsys.readouterr()
    assert main(["make", str(sheet), "spacer:0", "--out", str(tmp_path / "out")]) == 2
    assert "spacers.0.inner_diameter" in capsys.readouterr().err
    pairs = tmp_path / "pairs.csv"
    pairs.write_text(pairs_text(PAIRS), "utf-8")
    asked = [
        "printer",
        str(pairs),
        "--wanted",
        "27.1",
        "--kind",
        "inner",
        "--material",
        "M",
        "--json",
        "--printer",
    ]
    assert main([*asked, "P"]) == 0
    assert set(json.loads(capsys.readouterr().out)) == {"a", "b", "n", "s", "nominal", "u"}
    assert main([*asked, "Z"]) == 2
