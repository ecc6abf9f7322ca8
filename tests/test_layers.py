"""The layer table: who may import whom, read from every import in the source."""

import ast
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parents[1] / "src" / "marquetry"
MAY_IMPORT = {
    "core": set(),
    "drawing": {"core"},
    "store": {"core"},
    "devices": {"core"},
    "formats": {"core", "drawing", "store", "devices"},
    "demo": {"core", "store", "formats"},
    "web": {"core", "drawing", "store", "devices", "formats"},
    "cli": {"core", "drawing", "store", "devices", "formats", "web", "demo"},
}
OUTSIDE_OF_CORE = {"numpy", "uncertainties"}


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
    assert outside <= allowed
