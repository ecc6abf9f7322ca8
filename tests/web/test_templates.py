"""Templates hold markup: lines that can be read, no arithmetic, nothing by hand that a macro writes."""

import re
from pathlib import Path

import pytest
from jinja2 import Environment, nodes

import marquetry.web

WEB = Path(marquetry.web.__file__).parent
TEMPLATES = sorted(WEB.rglob("*.html"))
LONGEST = 140
ARITHMETIC = (nodes.Add, nodes.Sub, nodes.Mul, nodes.Div, nodes.FloorDiv, nodes.Mod, nodes.Pow, nodes.Neg)
TYPED_BY_HAND = {
    "a verdict without its macro": re.compile(r"verdict_mark\(\w+\) *\}\}\{\{ *\w+\.value"),
    "a version without its form": re.compile(r'name="version"'),
}
"""What a macro writes, and what writing it by hand looks like."""
WRITES = {"verdicts.html", "forms.html", "_row.html", "_parts_of_card.html"}
"""Where the macros themselves are, and the two that put a version among their own hidden fields."""


def test_there_are_templates() -> None:
    assert len(TEMPLATES) > 40


@pytest.mark.parametrize("path", TEMPLATES, ids=lambda path: path.stem)
def test_a_template_is_markup_that_can_be_read(path: Path) -> None:
    source = path.read_text("utf-8")
    assert [line for line in source.splitlines() if len(line) > LONGEST] == []
    tree = Environment(autoescape=True).parse(source)
    sums = [node for kind in ARITHMETIC for node in tree.find_all(kind) if not _is_negative(node)]
    assert sums == [], f"arithmetic in line {sums[0].lineno}" if sums else ""
    # The line break after a block tag is taken away: an attribute on the next line would join the one before.
    assert re.findall(r"%\}\n[ \t]*[a-z-]+=\"", source) == []
    used = {node.name for node in tree.find_all(nodes.Name)}
    named = {name for node in tree.find_all(nodes.FromImport) for name in node.names}
    assert named <= used, "macros that are not used"
    if path.name not in WRITES:
        assert [words for words, pattern in TYPED_BY_HAND.items() if pattern.search(source)] == []


def _is_negative(node: nodes.Node) -> bool:
    """Whether it is a number below nought, and no sum."""
    return isinstance(node, nodes.Neg) and isinstance(node.node, nodes.Const)


@pytest.mark.parametrize("path", sorted((WEB / "site" / "macros").glob("*.html")), ids=lambda path: path.stem)
def test_a_macro_reads_nothing_but_its_arguments(path: Path) -> None:
    """What a macro shows is handed to it; only what every page has may be taken from around it."""
    tree = Environment(autoescape=True).parse(path.read_text("utf-8"))
    macros = list(tree.find_all(nodes.Macro))
    assert macros
    own = {macro.name for macro in macros} | {"verdict_mark", "address", "caller", "loop"}
    for macro in macros:
        named = {node.name for node in macro.args}
        inside = [node for child in macro.body for node in (child, *child.find_all(nodes.Name))]
        bound = {node.name for node in inside if isinstance(node, nodes.Name) and node.ctx == "store"}
        read = {node.name for node in inside if isinstance(node, nodes.Name) and node.ctx == "load"}
        assert read <= own | named | bound, macro.name
