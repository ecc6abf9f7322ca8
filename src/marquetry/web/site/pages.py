"""Jinja, its filters, and the addresses of pages and shipped files."""

import hashlib
import re
from collections.abc import Mapping
from functools import lru_cache, partial
from pathlib import Path

from fastapi import FastAPI, Request
from fastapi.templating import Jinja2Templates
from jinja2 import Environment, FileSystemLoader, StrictUndefined
from jinja2.ext import Extension
from starlette.responses import Response

from marquetry import __version__
from marquetry.core.sheet.second_thought import second_thoughts
from marquetry.core.values.figures import band, chance, entered, figure
from marquetry.store.sent_forms import new_form_key
from marquetry.web.site.addresses import addresses
from marquetry.web.site.drawn import (
    drawn,
    face_lights,
    hatches,
    link_mark,
    plate_style,
    verdict_mark,
    verdict_symbols,
)
from marquetry.web.site.thumbs import emblems, face_thumbs, signs, thumbs, watch_faces, watch_thumbs
from marquetry.web.watch.editing import editing_part, editing_watch

WEB = Path(__file__).parents[1]
STATIC = WEB / "static"


@lru_cache(maxsize=32)
def static_address(path: str) -> str:
    """Address of a shipped file, with a digest of its content so that it may be kept for good."""
    digest = hashlib.sha256((STATIC / path).read_bytes()).hexdigest()[:10]
    return f"/static/{path}?v={digest}"


class Unindented(Extension):
    """Leaves a template's indentation to whoever edits it: half a kilobyte of a watch's page.

    What is prefilled in a text area comes from a value, never from the template, so nothing seen changes.
    """

    def preprocess(self, source: str, name: str | None, filename: str | None = None) -> str:  # noqa: ARG002  # Jinja's own
        """The same template, each line from its first letter on."""
        return re.sub(r"^[ \t]+", "", source, flags=re.MULTILINE)


def make_templates(app: FastAPI) -> Jinja2Templates:
    """The template environment: everything escaped, a name that is not there is an error."""
    environment = Environment(
        loader=FileSystemLoader(WEB),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        extensions=[Unindented],
    )
    environment.filters.update(
        figure=figure,
        band=band,
        chance=chance,
        entered=entered,
        svg=drawn,
        label_of=app.state.model.anatomy.label_of,
    )
    environment.globals.update(
        address=addresses(app),
        static=static_address,
        verdict_mark=verdict_mark,
        link_mark=link_mark,
        verdict_symbols=verdict_symbols,
        hatches=hatches,
        face_lights=face_lights,
        plate_style=plate_style,
        thumb=thumbs(app),
        face_thumb=face_thumbs(app),
        sign=signs(app),
        emblem=emblems(app),
        watch_thumb=watch_thumbs(app),
        watch_face=watch_faces(app),
        thoughts=second_thoughts,
        editing_watch=partial(editing_watch, app),
        editing_part=partial(editing_part, app),
        version=__version__,
        form_key=new_form_key,
    )
    return Jinja2Templates(env=environment)


def render(request: Request, template: str, context: Mapping[str, object], status: int = 200) -> Response:
    """Render a page or a part of one."""
    templates: Jinja2Templates = request.app.state.templates
    return templates.TemplateResponse(request, template, dict(context), status_code=status)
