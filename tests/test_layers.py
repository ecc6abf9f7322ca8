"""The layer table: who may import whom, read from every import in the source."""

import ast
import importlib
import re
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "marquetry"
MAY_IMPORT = {
    "core": set(),
    "drawing": {"core"},
    "formats": {"core", "drawing"},
    "store": {"core", "formats"},
    "devices": {"core"},
    "demo": {"core", "store", "devices", "formats"},
    "web": {"core", "drawing", "store", "devices", "formats"},
    "cli": {"core", "drawing", "store", "devices", "formats", "web", "demo"},
}
ROOMS = (
    "values", "sheet", "evidence", "measuring", "seeing", "fit", "section", "face", "remedies", "finder",
    "making",
    "trade", "brief", "bench", "proving", "story", "rehearsal",
)  # fmt: skip
"""The rooms of core by rank: a room imports from rooms above it in this list only."""
OUTSIDE_OF_CORE = {"numpy", "uncertainties"}
SIGHT = {"cv2"}
"""What sees in pictures: one room of the core, and only inside its functions."""
GEOMETRY = {"shapely", "manifold3d"}
"""What the kernel of made parts works with: one file of the core, and only inside its functions."""


def imports(file: Path) -> Iterator[str]:
    """Every module that the file imports, relative ones spelled out."""
    package = ["marquetry", *file.relative_to(SOURCE).parent.parts]
    for node in ast.walk(ast.parse(file.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom):
            base = package[: len(package) - node.level + 1] if node.level else []
            yield ".".join([*base, node.module or ""])


def test_every_import_keeps_to_the_layer_table() -> None:
    files = sorted(SOURCE.rglob("*.py"))
    assert len(files) > 40
    wrong = []
    for file in files:
        layer = file.relative_to(SOURCE).parts[0].removesuffix(".py")
        for module in imports(file):
            name, *rest = module.split(".")
            if (
                name == "marquetry"
                and rest
                and layer in MAY_IMPORT
                and rest[0] not in MAY_IMPORT[layer] | {layer}
            ):
                wrong.append(f"{file.relative_to(SOURCE)} imports {module}")
    assert wrong == []


def test_the_core_needs_nothing_but_numbers() -> None:
    import sys  # noqa: PLC0415  # for its list of standard modules

    allowed = (
        OUTSIDE_OF_CORE
        | {"marquetry"}
        | set(sys.stdlib_module_names) - {"sqlite3", "socket", "time", "datetime"}
    )
    outside = {m.split(".")[0] for file in (SOURCE / "core").rglob("*.py") for m in imports(file)}
    assert outside <= allowed | GEOMETRY | SIGHT | {"scipy", "datetime"}
    for package, only in (("scipy.optimize", "solver.py"), ("datetime", "day.py")):
        files = {
            f.name
            for layer in ("core", "store", "formats")
            for f in (SOURCE / layer).rglob("*.py")
            if package in imports(f)
        }
        assert files == {only}, "the solver is imported there alone, and no room of core asks the clock"
    using = {file.name for file in (SOURCE / "core").rglob("*.py") if GEOMETRY & set(imports(file))}
    assert using == {"kernel.py"}
    seeing = {file.parent.name for file in (SOURCE / "core").rglob("*.py") if SIGHT & set(imports(file))}
    assert seeing == {"seeing"}
    for file in SOURCE.rglob("*.py"):
        top = {module for node in ast.parse(file.read_text("utf-8")).body for module in _named(node)}
        assert not SIGHT & top, f"{file.name}: what sees takes half a second to start"


def test_every_room_of_core_imports_from_lower_rooms_only_and_through_their_doors() -> None:
    core = SOURCE / "core"
    assert {entry.name for entry in core.iterdir() if (entry / "__init__.py").exists()} == set(ROOMS)
    assert [file.name for file in core.glob("*.py")] == ["__init__.py"]
    wrong = []
    for rank, room in enumerate(ROOMS):
        for file in (core / room).rglob("*.py"):
            for module in imports(file):
                if not module.startswith("marquetry.core.") or module.startswith(f"marquetry.core.{room}"):
                    continue
                other, _, name = module.removeprefix("marquetry.core.").partition(".")
                if other not in ROOMS[:rank] or (name and name not in _door(other)):
                    wrong.append(f"{file.relative_to(SOURCE)} imports {module}")
    assert wrong == []


def _named(node: ast.stmt) -> set[str]:
    """The modules that one statement imports."""
    if isinstance(node, ast.Import):
        return {alias.name for alias in node.names}
    return {node.module or ""} if isinstance(node, ast.ImportFrom) else set()


def _door(room: str) -> set[str]:
    """The modules that a room's door names; each of them has to be there."""
    door = set(getattr(importlib.import_module(f"marquetry.core.{room}"), "DOOR", ()))
    files = {name for name in door if not (SOURCE / "core" / room / f"{name.replace('.', '/')}.py").exists()}
    assert all((SOURCE / "core" / room / name.replace(".", "/")).is_dir() for name in files), files
    return door


def test_the_model_is_handed_in_and_never_reached_for() -> None:
    """Its tables are imported where they are put together, the usual one made where a program starts."""
    tables = r"import .*\b(PARTS|FAMILIES|PLAIN_RULES|SCHOOLS)\b"
    for pattern, allowed in ((tables, {"core/fit/model.py"}), (r"\busual_model\b", {"core/fit/model.py"})):
        found = {
            file.relative_to(SOURCE).as_posix()
            for file in SOURCE.rglob("*.py")
            if re.search(pattern, file.read_text("utf-8"))
        }
        assert allowed <= found
        assert all(name.startswith("cli/") for name in found - allowed), found


WRITES_SVG = {
    "site/drawn.py", "watch/downloads.py", "site/thumbs.py", "brief/sheet.py",
    "handbook/written.py",
}  # fmt: skip
"""Where a scene becomes markup: for pages, for files, and kept for those drawn again and again."""


def test_no_view_model_renders() -> None:
    web = SOURCE / "web"
    renderers = {"marquetry.drawing.svg", "markupsafe"}
    assert {
        str(file.relative_to(web)) for file in web.rglob("*.py") if renderers & set(imports(file))
    } == WRITES_SVG


def test_a_word_has_one_meaning() -> None:
    """No class, and no name for a type, is given twice."""
    given: dict[str, list[str]] = {}
    for file in SOURCE.rglob("*.py"):
        for node in ast.parse(file.read_text("utf-8")).body:
            target = node.targets[0] if isinstance(node, ast.Assign) else getattr(node, "target", None)
            name = node.name if isinstance(node, ast.ClassDef) else getattr(target, "id", "")
            if re.fullmatch(r"[A-Z]\w*[a-z]\w*", name):
                given.setdefault(name, []).append(file.name)
    assert len(given) > 200
    twice = {name for name, files in given.items() if len(files) > 1}
    assert twice == {"Connection", "Model"}, "what routes ask for by name is the very thing: web/site/deps.py"


IMPORTED_AS = {
    "argon2": "argon2-cffi", "PIL": "pillow", "markdown_it": "markdown-it-py", "starlette": "fastapi",
    "markupsafe": "jinja2", "pydantic_core": "pydantic", "cv2": "opencv-python-headless",
}  # fmt: skip
"""Packages by the name that they are imported by; the last three are the face of one of ours."""
NEVER_IMPORTED = {"python-multipart", "networkx", "lxml"}
"""Asked for by FastAPI and by trimesh: nothing here imports them."""


def test_the_package_names_all_that_it_imports_and_the_lock_names_the_same() -> None:
    import sys  # noqa: PLC0415  # for its list of standard modules
    import tomllib  # noqa: PLC0415  # only here

    root = SOURCE.parents[1]
    named = set(tomllib.loads((root / "pyproject.toml").read_text("utf-8"))["project"]["dependencies"])
    roots = {module.split(".")[0] for file in SOURCE.rglob("*.py") for module in imports(file)}
    outside = roots - set(sys.stdlib_module_names) - {"marquetry"}
    assert {IMPORTED_AS.get(name, name) for name in outside} == named - NEVER_IMPORTED
    lines = (root / "requirements.in").read_text("utf-8").splitlines()
    wanted = {line.split()[0] for line in lines if line and not line.startswith("#")}
    assert wanted - {"flit-core"} == named
