"""What ships is what its sources make."""

import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
STATIC = ROOT / "src" / "marquetry" / "web" / "static"


@pytest.mark.skipif(not (ROOT / "node_modules").exists(), reason="`make test` installs the style builder")
def test_the_built_styles_are_not_stale(tmp_path: Path) -> None:
    built = tmp_path / "app.css"
    subprocess.run(["/bin/bash", ROOT / "styles" / "build.sh", "--css", built], check=True)
    assert built.read_text("utf-8") == (STATIC / "css" / "app.css").read_text("utf-8"), "run `make assets`"


def test_every_font_and_script_ships_with_its_licence() -> None:
    fonts = sorted(STATIC.glob("fonts/*.woff2"))
    licences = [file.stem for file in STATIC.glob("fonts/*.LICENSE")]
    assert fonts
    for font in fonts:
        assert any(font.name.startswith(licence) for licence in licences), font.name
    assert (STATIC / "vendor" / "alpine-csp.LICENSE").exists()


def test_no_file_names_a_registry() -> None:
    for name in ("requirements.lock", "requirements-dev.lock", "package-lock.json"):
        text = (ROOT / name).read_text("utf-8")
        assert "index-url" not in text
        assert "resolved" not in text
        assert "://" not in text or name == "package-lock.json"
    npm = (ROOT / "package-lock.json").read_text("utf-8")
    assert not [line for line in npm.splitlines() if ".tgz" in line]
