"""Documents say what is so: versions, commands, checks, pictures, links."""

import ast
import re
from pathlib import Path

import pytest

from marquetry import __version__
from marquetry.core.fit.rules import PLAIN_RULES
from tests.drawings import FOLDER, drawings
from tests.strategies import MODEL

ROOT = Path(__file__).parents[1]
DOCUMENTS = [ROOT / "README.md", ROOT / "CHANGELOG.md", *sorted((ROOT / "docs").rglob("*.md"))]
README = (ROOT / "README.md").read_text("utf-8")


def test_the_newest_entry_of_the_changelog_is_this_version() -> None:
    versions = re.findall(r"^## (\S+)", (ROOT / "CHANGELOG.md").read_text("utf-8"), re.MULTILINE)
    assert versions[0] == __version__


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: path.name)
def test_every_link_and_picture_is_there(document: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)\)", document.read_text("utf-8")):
        assert (document.parent / target).exists(), target


def test_every_picture_is_shown_in_the_readme() -> None:
    pictures = {p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert pictures == set(re.findall(r"screenshots/([\w-]+\.png)", README))
    assert 0 < len(pictures) < 20


def test_every_make_target_says_what_it_does_and_the_readme_names_no_other() -> None:
    """`make help` lists the targets that say so."""
    makefile = (ROOT / "Makefile").read_text("utf-8")
    phony = re.findall(r"^\.PHONY: (.*)$", makefile, re.MULTILINE)[0].split()
    told = re.findall(r"^([a-z-]+):.*## \w", makefile, re.MULTILINE)
    assert sorted(told) == sorted(phony)
    assert set(re.findall(r"`?make ([a-z-]+)", README)) <= set(told)


def test_every_source_file_named_in_the_documents_is_there() -> None:
    for document in DOCUMENTS:
        for name in re.findall(
            r"`((?:core|web|drawing|store|formats|static)/[\w/]+\.(?:py|js|css))", document.read_text("utf-8")
        ):
            places = (ROOT / "src" / "marquetry" / name, ROOT / "src" / "marquetry" / "web" / name)
            assert any(place.exists() for place in places), f"{document.name}: {name}"


def test_the_drawings_are_what_the_program_draws() -> None:
    made = drawings()
    assert {p.name for p in FOLDER.iterdir()} == set(made)
    for name, text in made.items():
        assert (FOLDER / name).read_text("utf-8") == text, f"{name}: run `make drawings` and look at it"


def test_the_changelog_and_the_rules_name_every_check() -> None:
    told = (ROOT / "CHANGELOG.md").read_text("utf-8").lower().replace("\n  ", " ")
    for check in MODEL.checks:
        words = check.title.lower().split(", ")[0] if "." in check.name else check.title.lower()
        assert words in told, f"the changelog does not tell of “{check.title}”"
    assert all(rule.meaning.endswith(".") for rule in PLAIN_RULES)


UNITS = (
    r"\bmm\b|millimet|°|degree|unit|per ?cent|share|chance|[Pp]robab|ratio|index|whole|count"
    r"|pixels|seconds|[Hh]ours|factor|[Mm]inutes|decibel|\bbar\b|metres"
)
NUMBERS = r"\b(float|Number|Point|complex|float64)\b"


def test_every_number_that_core_gives_out_tells_its_unit() -> None:
    silent, asked = [], 0
    for file in sorted((ROOT / "src/marquetry/core").rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_") and node.returns:
                gives, told = ast.unparse(node.returns), ast.get_docstring(node)
                if told and "str" not in gives and re.search(NUMBERS, gives):
                    asked += 1
                    silent += [] if re.search(UNITS, told) else [f"{file.name}: {node.name}"]
    assert asked > 90
    assert silent == []
