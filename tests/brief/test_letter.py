"""A client's letter read into wishes: each with its sentence, none agreed to, nothing read of a mood."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from starlette.testclient import TestClient

from marquetry.core.brief.answer import read_answer
from marquetry.core.brief.letter import read_letter
from marquetry.core.brief.topics import TOPIC_BY_KEY
from marquetry.core.brief.wish import WishState
from marquetry.store import briefs
from marquetry.store.database import Connection

TODAY = "2026-12-01"
FATHER = """Dear Mara,

I would like a watch for my father, for his birthday on 14 March. He has a wrist of 17.5 cm and likes it small, around 38 mm,
and not thicker than 12 mm. A blue dial, brushed case, please no date. It should go swimming, 100 m of water is enough.
On a brown leather strap. I can spend up to 650 €. Could it glow green in the dark? Nothing too flashy."""


@pytest.mark.parametrize(
    ("letter", "wishes"),
    [
        (FATHER, {"whom": "my father", "occasion": "birthday", "day": "2027-03-14", "wrist": "175", "diameter": "38", "height": "12", "colours": "blue",
                  "finishes": "brushed", "depth": "100", "straps": "brown leather strap", "budget": "650.00 EUR", "lume": "green lume"}),
        ("Für meine Frau zur Hochzeit am 5. Juni 2027. Durchmesser höchstens 36 mm, Zifferblatt grün, Edelstahlarmband.",
         {"whom": "meine Frau", "occasion": "hochzeit", "day": "2027-06-05", "diameter": "36", "colours": "green", "straps": "Edelstahlarmband"}),
        ("Une montre pour mon frère, cadran noir, 40 mm, bracelet en cuir. Avec la date.",
         {"whom": "mon frère", "diameter": "40", "colours": "black", "straps": "bracelet en cuir", "functions": "date"}),
        ("Lug to lug at most 47 mm, with a second time zone; ready by 2027-01-15.", {"span": "47", "functions": "h24", "day": "2027-01-15"}),
        ("Thank you for the lovely evening. I trust your taste.", {}),
        ("No date, no lume, not black.", {}),
        ("My wrist is 7 inches.", {"wrist": "177.8"}),
    ],
    ids=["father", "frau", "frere", "figures", "mood", "denied", "inches"],
)  # fmt: skip
def test_a_letter_is_read_into_wishes(letter: str, wishes: dict[str, str]) -> None:
    spoken = read_letter(letter, TODAY)
    assert {one.topic.key: one.value for one in spoken} == wishes
    assert all(letter[one.start : one.end].strip() == one.words for one in spoken), (
        "each underlines its own sentence"
    )
    assert all(TOPIC_BY_KEY[key].read(value) for key, value in wishes.items()), "and is kept as it is read"


def test_a_line_of_the_sheet_goes_before_a_sentence_and_none_is_agreed_by_itself() -> None:
    read = read_answer("Colours: rather grey\nA blue dial for his birthday.\nHello there.", TODAY)
    assert {reply.topic.key: (reply.value, reply.agreed) for reply in read.replies} == {
        "colours": ("grey", False),
        "occasion": ("birthday", False),
    }
    assert read.unread == ("Hello there.",)
    sheet = read_answer("Answer to Tern\nColours: agreed\n", TODAY)
    assert sheet.spoken == ()


def test_a_letter_is_shown_with_its_sentences_and_taken_as_proposals(
    client: TestClient, connection: Connection
) -> None:
    shown = client.post("/watches/1/brief/answer", data={"text": FATHER})
    assert "<mark" in shown.text
    assert "No line speaks of a wish" not in shown.text
    client.post(
        "/watches/1/brief/answer/taken", data={"text": FATHER, "seen": str(briefs.last_step(connection, 1))}
    )
    brief = briefs.brief_of(connection, 1)
    told = {wish.topic.key: wish for wish in brief.wishes}
    assert told["occasion"].value == "birthday"
    assert told["occasion"].state in {WishState.PROPOSED, WishState.CHANGED}
    assert told["occasion"].in_force != "birthday"


@given(text=st.text(max_size=300) | st.from_regex(r"(?s)[0-9a-z ,.!?€$:\n-]{0,200}"))
def test_whatever_is_written_is_read_or_left(text: str) -> None:
    for one in read_letter(text, TODAY):
        assert text[one.start : one.end].strip() == one.words
