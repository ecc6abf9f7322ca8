"""The brief's page: what is settled, asked and open, the face, pictures, sign-off, what came after."""

from dataclasses import dataclass
from datetime import UTC, date, datetime
from itertools import pairwise

from marquetry.core.brief.answer import ClientAnswer, Reply
from marquetry.core.brief.since_signed import PartSince, SinceSigned, since_signed
from marquetry.core.brief.wish import Brief, ClientWish, SignOff, WishState, WishStep, in_sheet
from marquetry.core.face.face import seen_face
from marquetry.core.values.errors import MarquetryError, NotFoundError
from marquetry.core.values.money import Money
from marquetry.drawing.face.face_scene import small_face
from marquetry.drawing.scene import Scene
from marquetry.store import briefs, photos, pieces, shelf
from marquetry.store.photos import Photo
from marquetry.store.watches import StoredWatch
from marquetry.web.watch.visit import Visit
from marquetry.web.watch.way import WayThrough


@dataclass(frozen=True, slots=True)
class RefusedWish:
    """A wish that was refused: what was typed, and why."""

    topic: str
    value: str
    words: str
    reason: str


@dataclass(frozen=True, slots=True)
class WishLine:
    """One wish as the page shows it. `aside` says where the sheet has something that nobody agreed to."""

    wish: ClientWish
    typed: str
    aside: str
    refused: RefusedWish | None
    opened: bool

    @property
    def mark(self) -> str:
        """Which of the four marks stands before it."""
        return self.wish.state.value

    @property
    def day(self) -> str:
        """The day of its last step."""
        return self.wish.last.at[:10] if self.wish.last else ""


@dataclass(frozen=True, slots=True)
class Touched:
    """What a changed part touches: its money, and whether it is there or has to come."""

    part: PartSince
    money: str
    waits: str


@dataclass(frozen=True, slots=True)
class BriefPage:
    """All that the templates show."""

    watch: StoredWatch
    way: WayThrough
    brief: Brief
    seen: int
    asked: tuple[WishLine, ...]
    open: tuple[WishLine, ...]
    settled: tuple[WishLine, ...]
    face: Scene
    pictures: list[Photo]
    signed: SignOff | None
    since: SinceSigned | None
    touched: tuple[Touched, ...]
    days_left: int | None
    picture_fault: str = ""


def brief_page(
    visit: Visit, refused: RefusedWish | None = None, picture_fault: str = "", opened: str = ""
) -> BriefPage:
    """Compute the page; `opened` is the wish that stands unfolded."""
    connection, stored = visit.connection, visit.stored
    brief = briefs.brief_of(connection, stored.id)
    lines = {wish.topic.key: _line(visit, wish, refused, opened) for wish in brief.wishes}

    def those(wishes: tuple[ClientWish, ...]) -> tuple[WishLine, ...]:
        return tuple(lines[wish.topic.key] for wish in wishes)

    since = None
    if brief.signed:
        since = since_signed(briefs.signed_build(connection, stored.id, brief.signed), stored.build, brief)
    return BriefPage(
        stored,
        visit.way("brief"),
        brief,
        briefs.last_step(connection, stored.id),
        those(brief.asked),
        those(brief.open),
        those(brief.settled),
        small_face(seen_face(stored.build, visit.report(stored.build))),
        photos.photos_of(connection, "watch", stored.id),
        brief.signed,
        since,
        tuple(_touched(visit, part) for part in since.parts if part.is_other) if since else (),
        _days_left(brief),
        picture_fault,
    )


def _line(visit: Visit, wish: ClientWish, refused: RefusedWish | None, opened: str) -> WishLine:
    mine = refused if refused and refused.topic == wish.topic.key else None
    kept = in_sheet(visit.stored.build, wish.topic)
    aside = ""
    if kept and kept != wish.in_force:
        aside = f"The sheet has {wish.topic.told(kept)}, which nobody agreed to."
    typed = mine.value if mine else wish.value or (kept if wish.state is WishState.OPEN else "")
    return WishLine(wish, typed, aside, mine, mine is not None or wish.topic.key == opened)


def next_open(brief: Brief, after: str) -> str:
    """The next wish nobody said anything of, where this one was open too: a new brief is typed through."""
    keys = [wish.topic.key for wish in brief.wishes]
    if brief.wish(after).state is not WishState.OPEN:
        return ""
    following = (wish for wish in brief.wishes[keys.index(after) + 1 :] if wish.state is WishState.OPEN)
    return next((wish.topic.key for wish in following), "")


def _days_left(brief: Brief) -> int | None:
    """Whole days from today to the day it is wanted by, where one is in force."""
    day = brief.wish("day").in_force
    return (date.fromisoformat(day) - datetime.now(UTC).date()).days if day else None


def _touched(visit: Visit, part: PartSince) -> Touched:
    before, after = (_price(visit, number) for number in (part.was, part.now))
    free = part.now is not None and pieces.free_piece(visit.connection, part.now, visit.stored.id) is not None
    here = visit.stored.build.at(f"{part.kind.prefix}.shelf_piece") is not None
    waits = "in the watch already" if here else "a piece is on the shelf" if free else "has to be ordered"
    return Touched(part, _dearer(before, after), waits if part.after else "goes back onto the shelf")


def _price(visit: Visit, number: int | None) -> Money | None:
    try:
        return shelf.part(visit.connection, number).terms.price if number else None
    except NotFoundError:
        return None


def _dearer(before: Money | None, after: Money | None) -> str:
    """The two prices beside each other; the difference where they are of one currency."""
    if before is None and after is None:
        return "prices not known"
    if before and after and before.currency == after.currency:
        more = after.minor - before.minor
        sign = "dearer" if more > 0 else "cheaper"
        return f"{Money(abs(more), after.currency)} {sign}" if more else "as dear"
    return f"{before or 'not known'} → {after or 'not known'}"


@dataclass(frozen=True, slots=True)
class ReplyLine:
    """One line of the client's answer beside what stood there, and the step that it comes to."""

    reply: Reply
    before: str
    step: WishStep | None
    fault: str


def letter_pieces(text: str, answer: ClientAnswer) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """The letter cut at its sentences, each with the wishes it was read as; nothing where it is no letter."""
    if not answer.spoken:
        return ()
    spans = sorted({(one.start, one.end) for one in answer.spoken})
    cuts = [0, *(place for span in spans for place in span), len(text)]
    labels = {
        span: tuple(one.topic.label for one in answer.spoken if (one.start, one.end) == span)
        for span in spans
    }
    return tuple(
        (text[start:end], labels.get((start, end), ())) for start, end in pairwise(cuts) if end > start
    )


def reply_lines(brief: Brief, answer: ClientAnswer) -> tuple[ReplyLine, ...]:
    """Every reply with what it would change; one that cannot be kept as typed says why, and is left out."""
    return tuple(_reply_line(brief.wish(reply.topic.key), reply) for reply in answer.replies)


def _reply_line(wish: ClientWish, reply: Reply) -> ReplyLine:
    try:
        step = wish.agree(reply.words, "client") if reply.agreed else None
        step = step or wish.propose(reply.value, reply.words, "client")
    except MarquetryError as error:
        return ReplyLine(reply, wish.told, None, str(error))
    if not step.value:
        return ReplyLine(reply, wish.told, None, "Nothing was proposed that this could be a yes to.")
    return ReplyLine(reply, wish.told, step, "")
