"""The client's sheet: one HTML file with its fonts, drawings and its one small script within."""

import base64
import hashlib
from dataclasses import dataclass
from functools import lru_cache

from markupsafe import Markup

from marquetry.core.brief.topics import CHOICE
from marquetry.core.brief.wish import Brief, ClientWish
from marquetry.core.face.face import seen_face
from marquetry.core.face.on_wrist import worn
from marquetry.core.fit.plausible import Plausible
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.difference import told
from marquetry.drawing.face.face_scene import by_day, by_night
from marquetry.drawing.face.wrist_face import on_wrist
from marquetry.drawing.scene import Scene
from marquetry.drawing.sheet import USUAL_TIME
from marquetry.store import briefs, variants
from marquetry.store.variants import Variant
from marquetry.web.site.pages import STATIC, WEB
from marquetry.web.watch.visit import Visit

NIGHT_AFTER = 10.0
FONTS = (
    ("Fraunces", "300 700", "fraunces-latin-wght-normal"),
    ("Atkinson", "200 800", "atkinson-hyperlegible-next-latin-wght-normal"),
    ("Plex Mono", "400", "ibm-plex-mono-latin-400-normal"),
)
FOLDER = WEB / "brief" / "client"


@dataclass(frozen=True, slots=True)
class ClientProposal:
    """One way the watch could be: its name, its drawings, and what it differs by."""

    name: str
    day: Scene
    night: Scene
    wrist: Scene
    worn: str
    changes: tuple[str, ...]


@lru_cache(maxsize=1)
def _script() -> str:
    return (FOLDER / "answer.js").read_text("utf-8")


@lru_cache(maxsize=1)
def _fonts() -> str:
    faces = []
    for family, weight, name in FONTS:
        data = base64.b64encode((STATIC / "fonts" / f"{name}.woff2").read_bytes()).decode()
        source = f"url(data:font/woff2;base64,{data}) format('woff2')"
        faces.append(f"@font-face{{font-family:'{family}';font-weight:{weight};src:{source}}}")
    return "".join(faces)


def _policy() -> str:
    digest = base64.b64encode(hashlib.sha256(_script().encode()).digest()).decode()
    return (
        f"default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:; "
        f"script-src 'sha256-{digest}'; base-uri 'none'; form-action 'none'"
    )


SHEET_POLICY = _policy()
"""The file may run its own script and nothing else; it neither loads nor sends."""


def client_sheet(visit: Visit) -> str:
    """The sheet as text: proposals by day, night and on the wrist, what is settled, what is asked."""
    stored = visit.stored
    brief = briefs.brief_of(visit.connection, stored.id)
    held = variants.variants_or_faults(visit.connection, stored.id)
    others = [(found.name, found.build) for found in held if isinstance(found, Variant)]
    proposals = [_proposal(visit, "As it stands", stored.build)]
    proposals += [_proposal(visit, name, build) for name, build in others]
    templates = visit.request.app.state.templates
    text: str = templates.get_template("brief/templates/client_sheet.html").render(
        watch=stored,
        of=f"{stored.build.name}, sheet of version {stored.version}",
        brief=brief,
        proposals=proposals,
        asked=_asked(brief),
        policy=SHEET_POLICY,
        fonts=Markup(_fonts()),  # noqa: S704  # our own files
        style=Markup((FOLDER / "sheet.css").read_text("utf-8")),  # noqa: S704  # our own file
        script=Markup(_script()),  # noqa: S704  # our own file
        minutes=NIGHT_AFTER,
    )
    return text


def _asked(brief: Brief) -> tuple[ClientWish, ...]:
    """What the client is asked: what waits for a yes first, then what nobody said anything of.

    The choice is asked beside the proposals.
    """
    return tuple(wish for wish in (*brief.asked, *brief.open) if wish.topic.key != CHOICE)


def _proposal(visit: Visit, name: str, build: Build) -> ClientProposal:
    report = visit.report(build, like=visit.stored.build)
    face = seen_face(build, report)
    sits = worn(Plausible(build, report.rules))
    return ClientProposal(
        name,
        by_day(face, name),
        by_night(face, name, NIGHT_AFTER),
        on_wrist(face, sits, USUAL_TIME, name),
        sits.told if sits.is_known else "Drawn to scale as far as sizes are known.",
        tuple(told(visit.stored.build, build, known_only=True)),
    )
