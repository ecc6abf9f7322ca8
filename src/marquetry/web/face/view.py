"""The face's page: the watch as it looks, what it wears, what may not go together, its looks to edit."""

from collections.abc import Iterator
from dataclasses import dataclass

from marquetry.core.face.accord import FaceNote, face_notes
from marquetry.core.face.face import seen_face
from marquetry.core.face.night import AFTER
from marquetry.core.face.on_wrist import worn
from marquetry.core.face.proved_light import AT_MIN, with_proved_light
from marquetry.core.face.seen import SeenFace
from marquetry.core.fit.plausible import Plausible
from marquetry.core.fit.report import Report
from marquetry.core.proving.lume_records import decays_in
from marquetry.core.proving.record import proofs_standing
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.described.colours import PALETTE
from marquetry.core.sheet.kind import Kind
from marquetry.core.sheet.part import PART_LINK, Part
from marquetry.core.values.verdict import Verdict
from marquetry.drawing.face.face_scene import by_day, by_night, small_night
from marquetry.drawing.face.wrist_face import on_wrist
from marquetry.drawing.scene import Scene
from marquetry.store import shelf
from marquetry.store.pieces_in_watch import planned
from marquetry.store.proofs import proofs_of
from marquetry.store.watches import StoredWatch
from marquetry.web.face.look import SHOWS, FaceLook
from marquetry.web.face.rows import looks_of
from marquetry.web.watch.editing import Editing
from marquetry.web.watch.rows import PartView, Rejected, Row, look_rows
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class Garment:
    """One part of the face: what it is now, which of the drawer's it is, and its neighbours there."""

    kind: Kind
    part: Part | None
    is_chosen: bool
    is_tried: bool
    place: str
    choose: str
    before: str
    after: str
    own: str


@dataclass(frozen=True, slots=True)
class NightGlimpse:
    """The face small in the dark, some minutes after light, and where it is shown large."""

    words: str
    scene: Scene
    address: str
    is_shown: bool


@dataclass(frozen=True, slots=True)
class FacePage:
    """All that the templates show."""

    watch: StoredWatch
    way: WayThrough
    look: FaceLook
    scene: Scene
    garments: tuple[Garment, ...]
    nights: tuple[NightGlimpse, ...]
    notes: tuple[FaceNote, ...]
    quiet: tuple[str, ...]
    glowing: tuple[str, ...]
    looks: PartView | None
    words: tuple[Row, ...]
    editing: Editing
    turned: tuple[tuple[str, Verdict, int, int], ...]
    caption: str = ""
    """What the drawing shows, where it needs words."""
    palette: tuple[str, ...] = tuple(PALETTE)
    shows: tuple[tuple[str, str], ...] = SHOWS

    @property
    def chosen(self) -> Garment | None:
        """The part whose looks are edited, and which the arrows change."""
        return next((garment for garment in self.garments if garment.is_chosen), None)

    @property
    def is_bare(self) -> bool:
        """Whether nothing of the watch is there that could be seen."""
        return all(garment.part is None for garment in self.garments)

    @property
    def is_tried(self) -> bool:
        """Whether anything is worn that is not in the watch."""
        return any(garment.is_tried for garment in self.garments)


def dressed(visit: Visit, look: FaceLook) -> Build:
    """The stored watch with the parts that are tried on; nothing of it is stored."""
    build = visit.stored.build
    for kind, number in look.worn.items():
        stored = shelf.part(visit.connection, number)
        if stored.part.kind.key == kind and not stored.part.kind.is_many:
            build = planned(build, stored)
    return build


def lit_face(visit: Visit, build: Build, report: Report) -> SeenFace:
    """The face as it is dressed; its lume as it was measured, unless another part is tried on."""
    face = seen_face(build, report)
    if build != visit.stored.build:
        return face
    proofs = proofs_of(visit.connection, visit.stored.id)
    laws = decays_in(proofs_standing(proofs)) if any(proof.kind == "lume" for proof in proofs) else {}
    return with_proved_light(face, {key: (law.brightness(AT_MIN), law.exponent) for key, law in laws.items()})


def face_page(visit: Visit, look: FaceLook, rejected: Rejected | None = None) -> FacePage:
    """Compute the page; the dial is chosen where the reader chose nothing."""
    build = dressed(visit, look)
    report = visit.report(build, like=visit.stored.build)
    face = lit_face(visit, build, report)
    kinds = [
        kind for kind in visit.model.anatomy.kinds if kind.face and (not kind.is_many or face.spacer_path)
    ]
    usual = "dial" if build.has("dial") else next((kind.key for kind in kinds if build.has(kind.key)), "dial")
    chosen = look.part if look.part in {kind.key for kind in kinds} else usual
    kind = visit.model.anatomy.kind(chosen)
    place = place_of(kind, face)
    held = build.has(place)
    is_edited = look.edit and held and chosen not in look.worn
    return FacePage(
        visit.stored,
        visit.way("face"),
        look,
        face_scene(build, face, report, look),
        tuple(_garments(visit, build, [(kind, place_of(kind, face)) for kind in kinds], chosen, look)),
        tuple(_nights(face, look)),
        face_notes(face),
        tuple(visit.model.anatomy.part(key).label.lower() for key in face.quiet),
        tuple(_glowing(face)),
        looks_of(build, kind, face.dress, place, rejected) if is_edited else None,
        look_rows(Part.of(kind, build.at(place)), rejected, place) if is_edited else (),
        _editing(visit, look),
        tuple(_turned(visit.report(visit.stored.build), report)),
        worn(Plausible(build, report.rules)).told if look.show == "wrist" else "",
    )


def place_of(kind: Kind, face: SeenFace) -> str:
    """Where the part of that kind that is seen stands in the sheet: the spacer on the dial's side."""
    return face.spacer_path if kind.is_many else kind.key


def face_scene(build: Build, face: SeenFace, report: Report, look: FaceLook) -> Scene:
    """The large drawing in the light that was asked for."""
    if look.show == "night":
        return by_night(face, build.name, look.minutes, look.hands_at)
    if look.show == "wrist":
        return on_wrist(face, worn(Plausible(build, report.rules)), look.hands_at, build.name)
    return by_day(face, build.name, look.hands_at)


def _editing(visit: Visit, look: FaceLook) -> Editing:
    def to(name: str) -> str:
        address = visit.request.app.url_path_for(name, watch_id=str(visit.stored.id))
        return f"{address}{look.address()}"

    return Editing(visit.stored.version, to("change_look"), to("add_look"), to("remove_look"))


def _garments(
    visit: Visit, build: Build, places: list[tuple[Kind, str]], chosen: str, look: FaceLook
) -> Iterator[Garment]:
    for kind, path in places:
        numbers = [] if kind.is_many else shelf.numbers_of_kind(visit.connection, kind.key)
        now = look.worn.get(kind.key) or build.at(f"{path}.{PART_LINK}")
        at = numbers.index(now) if now in numbers else -1
        own = visit.stored.build.at(f"{path}.{PART_LINK}")
        part = Part.of(kind, build.at(path)) if build.has(path) else None
        is_tried = kind.key in look.worn
        yield Garment(
            kind,
            part,
            kind.key == chosen,
            is_tried,
            f"{at + 1} of {len(numbers)}" if at >= 0 else f"of {len(numbers)}",
            look.address(part=kind.key),
            _next(numbers, at, -1, own, kind, look),
            _next(numbers, at, 1, own, kind, look),
            look.wearing(kind.key, None) if is_tried else "",
        )


def _next(  # noqa: PLR0913, PLR0917  # a place in a drawer, and which way
    numbers: list[int], at: int, step: int, own: object, kind: Kind, look: FaceLook
) -> str:
    """The address with the drawer's neighbour tried on; nothing where the drawer is empty."""
    if not numbers:
        return ""
    number = numbers[(at + step) % len(numbers)] if at >= 0 else numbers[0 if step > 0 else -1]
    return look.wearing(kind.key, None if number == own else number)


def _nights(face: SeenFace, look: FaceLook) -> Iterator[NightGlimpse]:
    for minutes in AFTER:
        words = "at once" if not minutes else f"after {minutes:g} min"
        shown = look.show == "night" and look.minutes == minutes
        yield NightGlimpse(
            words, small_night(face, minutes), look.address(show="night", minutes=minutes), shown
        )


def _glowing(face: SeenFace) -> Iterator[str]:
    """What each colour of lume starts with and how long it lasts, with its source."""
    lumes = [m.lume for m in face.dial.markers] if face.dial else []
    lumes += [hand.lume for hand in face.hands] + [ring.lume for ring in (face.insert, face.ring) if ring]
    for paste in dict.fromkeys(lume.paste for lume in lumes if lume):
        later = ", ".join(f"{paste.brightness(minutes):.0f} after {minutes:g} min" for minutes in AFTER[1:])
        yield f"{paste.glow.capitalize()}, mcd/m²: {later} ({paste.source})."


def _turned(was: Report, now: Report) -> Iterator[tuple[str, Verdict, int, int]]:
    """Verdicts whose number another part changes, with the numbers before and after."""
    for verdict in (Verdict.CLASH, Verdict.TIGHT, Verdict.ASSUMED, Verdict.UNMEASURED):
        if was.count(verdict) != now.count(verdict):
            yield verdict.value, verdict, was.count(verdict), now.count(verdict)
