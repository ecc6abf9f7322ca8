"""Wishes from open to agreed, the client's answer read and written, and what comes after a yes."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.brief.answer import HEAD, ClientAnswer, Reply, read_answer, written_answer
from marquetry.core.brief.since_signed import since_signed
from marquetry.core.brief.topics import TOPIC_BY_KEY, TOPICS
from marquetry.core.brief.wish import Brief, ClientWish, SignOff, WishState, WishStep, in_sheet, targeted
from marquetry.core.sheet.build import Build
from marquetry.core.values.errors import DimensionError, MarquetryError, SheetError
from tests.strategies import ANATOMY, case_build


@pytest.mark.parametrize(
    ("topic", "typed", "kept", "told"),
    [
        ("height", "13.6", "13.6", "13.6 mm"),
        ("height", "13,60 mm", "13.6", "13.6 mm"),
        ("height", '1/2"', "12.7", "12.7 mm"),
        ("depth", "100 m", "100", "100 m"),
        ("functions", "hours, minutes; 24-hour hand", "hours, minutes, h24", "hours, minutes, 24-hour hand"),
        ("functions", "date, date", "date", "date"),
        ("budget", "1350", "1350.00 EUR", "1350.00 EUR"),
        ("budget", "99,5 GBP", "99.50 GBP", "99.50 GBP"),
        ("day", "2028-02-29", "2028-02-29", "2028-02-29"),
        ("colours", "  white\n and  slate ", "white and slate", "white and slate"),
        ("whom", "", "", ""),
    ],
)
def test_a_wish_is_kept_in_one_way(topic: str, typed: str, kept: str, told: str) -> None:
    asked = TOPIC_BY_KEY[topic]
    assert asked.read(typed) == kept
    assert asked.read(kept) == kept
    assert (asked.told(kept) if kept else "") == told


@pytest.mark.parametrize(
    ("topic", "typed", "error", "words"),
    [
        ("height", "low", DimensionError, "a number in mm"),
        ("height", "400", DimensionError, "more than 0, at most 40 mm"),
        ("height", "0", DimensionError, "more than 0"),
        ("depth", "-3", DimensionError, "more than 0, at most 2000 m"),
        ("functions", "flying", SheetError, "some of hours, minutes"),
        ("budget", "lots", DimensionError, "a sum such as"),
        ("day", "soon", SheetError, "a day such as"),
        ("day", "2027-13-01", SheetError, "a day such as"),
        ("day", "2027-04-31", SheetError, "a day that its month has"),
        ("day", "2027-02-29", SheetError, "a day that its month has"),
        ("day", "2027-03-٢٠", SheetError, "a day such as"),
        ("colours", "x" * 401, SheetError, "at most 400 letters"),
        ("colours", "a\0b", SheetError, "plain words"),
    ],
)
def test_what_cannot_be_wished_is_refused_by_its_topic(
    topic: str, typed: str, error: type[MarquetryError], words: str
) -> None:
    with pytest.raises(error, match=words) as refused:
        TOPIC_BY_KEY[topic].read(typed)
    assert TOPIC_BY_KEY[topic].label in str(refused.value)


def through(*acts: str) -> ClientWish:
    """A wish for the height through these acts: a value is said, `+` agrees, `-` opens it again."""
    wish = ClientWish(TOPIC_BY_KEY["height"])
    for act in acts:
        step = (
            wish.agree()
            if act == "+"
            else WishStep("height", WishState.OPEN, "")
            if act == "-"
            else wish.propose(act)
        )
        wish = ClientWish(wish.topic, (*wish.steps, step))
    return wish


@pytest.mark.parametrize(
    ("acts", "state", "value", "in_force"),
    [
        ((), "open", "", ""),
        (("14",), "proposed", "14", ""),
        (("14", "13"), "proposed", "13", ""),
        (("14", "+"), "agreed", "14", "14"),
        (("14", "+", "13"), "changed", "13", "14"),
        (("14", "+", "13", "12"), "changed", "12", "14"),
        (("14", "+", "13", "+"), "agreed", "13", "13"),
        (("14", "+", "14"), "proposed", "14", "14"),
        (("14", "+", "-"), "open", "", ""),
        (("14", "+", "-", "13"), "proposed", "13", ""),
        (("14", "+", ""), "open", "", ""),
    ],
)
def test_a_wish_goes_its_way(acts: tuple[str, ...], state: str, value: str, in_force: str) -> None:
    wish = through(*acts)
    assert (wish.state.value, wish.value, wish.in_force) == (state, value, in_force)
    assert len(wish.steps) == len(acts), "nothing said is forgotten"


@given(st.lists(st.sampled_from(["14", "13", "+", "-", ""]), min_size=1, max_size=8))
def test_what_was_said_last_can_be_taken_back(acts: list[str]) -> None:
    before, after = through(*acts[:-1]), through(*acts)
    again = ClientWish(after.topic, (*after.steps, *after.take_back()))
    assert (again.state, again.value, again.in_force) == (before.state, before.value, before.in_force)
    assert again.steps[: len(acts)] == after.steps, "and stays on record"


@pytest.mark.parametrize(
    ("topic", "value", "target"),
    [
        ("height", "13.6", {"max_height_mm": 13.6}),
        ("wrist", "172", {"wrist_circumference_mm": 172.0}),
        ("functions", "hours, date", {"functions": ["hours", "date"]}),
        ("colours", "white", {}),
        ("budget", "9.00 EUR", {}),
    ],
)
def test_what_is_agreed_is_what_the_report_checks(topic: str, value: str, target: dict[str, object]) -> None:
    build = Build.empty("x", ANATOMY)
    asked = ClientWish(TOPIC_BY_KEY[topic], (WishStep(topic, WishState.PROPOSED, value),))
    assert targeted(build, asked) == build
    agreed = ClientWish(asked.topic, (*asked.steps, asked.agree()))
    after = targeted(build, agreed)
    assert after.raw["target"] == target
    assert in_sheet(after, asked.topic) == (value if target else "")
    again = ClientWish(asked.topic, (*agreed.steps, WishStep(topic, WishState.OPEN, "")))
    assert targeted(after, again) == build


def test_the_finder_ranks_by_agreed_words_on_looks_alone() -> None:
    steps = [
        WishStep("colours", WishState.AGREED, "white dial as the lamp room, slate bezel"),
        WishStep("finishes", WishState.PROPOSED, "polished"),
        WishStep("lume", WishState.AGREED, "green, on dial and hands"),
        WishStep("straps", WishState.AGREED, "tan leather"),
        WishStep("unheard", WishState.AGREED, "of"),
    ]
    brief = Brief.of(steps)
    assert brief.looks_wished == "white slate green"
    assert [w.topic.key for w in brief.settled] == ["colours", "lume", "straps"]
    assert [w.topic.key for w in brief.asked] == ["finishes"]
    assert len(brief.open) == len(TOPICS) - 4


ANSWER = """Answer to Skerry Light, sheet of version 3

Colours: agreed, like the tiles
- height, at most = rather 13 mm / it caught on a cuff
WRIST: ok
Strap or straps: yes, but in black
Case's finish to change: No: leave it
Choice: Dial-side spacer
Words: thank you
Words: and greetings
The weather is fine here
Favourite cheese: goat
"""


def test_an_answer_is_understood_line_by_line() -> None:
    answer = read_answer(ANSWER)
    said = {reply.topic.key: (reply.agreed, reply.value, reply.words) for reply in answer.replies}
    assert said == {
        "colours": (True, "", "like the tiles"),
        "height": (False, "13 mm", "it caught on a cuff"),
        "wrist": (True, "", ""),
        "straps": (False, "in black", ""),
        "case_finish": (False, "leave it", ""),
        "choice": (False, "Dial-side spacer", ""),
    }
    assert answer.words == "thank you and greetings"
    assert answer.unread == ("The weather is fine here", "Favourite cheese: goat")


MEANS_SOMETHING = (
    "agree", "yes", "ok", "no", "rather", "change", "instead", "if", "but", "only", "except", "unless",
)  # fmt: skip
said = (
    st.text("abcdefghij klmnop,.äß0123456789", min_size=1, max_size=40)
    .map(lambda text: " ".join(text.split()))
    .filter(lambda text: text and text[0] not in ",." and not text.lower().startswith(MEANS_SOMETHING))
)


@given(data=st.data())
def test_an_answer_that_was_written_is_read_back(data: st.DataObject) -> None:
    topics = data.draw(st.lists(st.sampled_from(TOPICS), unique=True, max_size=8))
    replies = []
    for topic in topics:
        agreed = data.draw(st.booleans())
        value = "" if agreed else data.draw(said)
        replies.append(Reply(topic, agreed=agreed, value=value, words=data.draw(st.just("") | said)))
    answer = ClientAnswer(tuple(replies), data.draw(st.just("") | said))
    assert read_answer(written_answer(answer, "a watch")) == answer


@given(st.text(max_size=400))
def test_no_answer_breaks_the_reader(text: str) -> None:
    answer = read_answer(text)
    assert len(answer.replies) <= len(TOPICS)
    assert all(line.strip() for line in answer.unread)
    assert read_answer(f"{HEAD} x\n").unread == ()


def test_a_change_after_the_yes_is_told_with_what_it_touches() -> None:
    signed = case_build(1)
    yes = SignOff(1, 1, "the client", "", "2026-11-01T00:00:00Z", 2)
    steps = [
        WishStep("colours", WishState.AGREED, "white", number=1),
        WishStep("height", WishState.AGREED, "14", number=2),
    ]
    brief = Brief.of(steps, [yes])
    assert since_signed(signed, signed, brief).is_nothing
    other = signed.with_entry("dial", {**signed.at("dial"), "name": "Another dial"})
    thinner = other.with_entry("crystal.edge_thickness", 1.9).without(
        "strap" if signed.has("strap") else "stem"
    )
    later = Brief.of([*steps, WishStep("height", WishState.CHANGED, "13", number=3)], [yes])
    since = since_signed(signed, thinner, later)
    assert {(part.kind.key, part.is_other) for part in since.parts} == {
        ("dial", True), ("crystal", False), ("strap" if signed.has("strap") else "stem", True),
    }  # fmt: skip
    assert [wish.topic.key for wish in since.wishes] == ["height"]
    assert len(since.changes) == len(since.parts)
