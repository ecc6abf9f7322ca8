"""A seller's file read as text: mails of every make, pages, plain text; what is hostile stays words or is refused."""

from email.message import EmailMessage

import pytest
from hypothesis import given
from hypothesis import strategies as st

from marquetry.core.values.errors import SheetError
from marquetry.formats.seller_mail import MOST_BYTES, text_of_file

ORDER = "Dial: Winkle grey $18\nStrap 22 mm $14\n"
PAGE = (
    "<html><head><title>Shop</title><style>p{}</style></head><body><script>steal()</script><h1>Your order</h1>"
    "<p>Dial: <b>Winkle</b> grey&nbsp;$18<br>Strap 22&#160;mm</p><table><tr><td>Case</td><td>2</td></tr></table>"
    "<iframe src='http://x'>dial 99 mm</iframe><ul><li>Hands<li>Crown</ul></body></html>"
)


def mail(*, plain: str = "", page: str = "", charset: str = "utf-8", attached: bytes = b"") -> bytes:
    made = EmailMessage()
    made["From"] = "Quayside Parts <Orders@Quayside.Example>"
    made["Subject"] = "Ihre Bestellung – 3340"
    if plain:
        made.set_content(plain, charset=charset)
    if page:
        (made.add_alternative if plain else made.set_content)(page, subtype="html")
    if attached:
        made.add_attachment(attached, maintype="text", subtype="plain", filename="terms.txt")
    return bytes(made)


@pytest.mark.parametrize("charset", ["utf-8", "iso-8859-15"])
@pytest.mark.parametrize("page", ["", PAGE])
def test_a_mail_is_its_plain_words_and_knows_its_sender(charset: str, page: str) -> None:
    told = text_of_file(
        "order.eml",
        mail(
            plain="Zifferblatt 28,5 mm – 19 €\n".replace("–", "-"),
            page=page,
            charset=charset,
            attached=b"dial 99 mm",
        ),
    )
    assert told.sender == "orders@quayside.example"
    assert told.text.split() == ["Zifferblatt", "28,5", "mm", "-", "19", "€"]


def test_a_page_is_the_words_that_a_reader_sees_block_by_block() -> None:
    for name, content in (
        ("order.html", PAGE.encode()),
        ("saved", PAGE.encode("utf-16")),
        ("x.eml", mail(page=PAGE)),
    ):
        words = text_of_file(name, content).text
        lines = [line for line in words.splitlines() if line.strip()]
        assert lines == ["Your order", "Dial: Winkle grey $18", "Strap 22 mm", "Case\t2", "Hands", "Crown"]
        assert "\n\n" in words, "a table stands by itself"


@pytest.mark.parametrize(
    ("name", "content"),
    [
        ("big.txt", b"a" * (MOST_BYTES + 1)),
        ("empty.txt", b" \n\t"),
        ("x.eml", b"From: a@b\nSubject: x\n\n"),
        ("x.html", b"<script>dial</script>"),
    ],
)
def test_a_file_without_words_or_too_large_is_refused(name: str, content: bytes) -> None:
    with pytest.raises(SheetError):
        text_of_file(name, content)


@given(content=st.binary(max_size=400) | st.text(max_size=200).map(lambda words: f"From: {words}\nSubject: x\nContent-Type: {words}\n\n{words}".encode()),
       name=st.sampled_from(["x.eml", "x.html", "x.txt", "", "../../x.eml"]))  # fmt: skip
def test_whatever_is_dropped_is_words_or_refused(content: bytes, name: str) -> None:
    try:
        told = text_of_file(name, content)
    except SheetError:
        return
    assert "\0" not in told.text
    assert any(map(str.isalnum, told.text))
    assert not told.sender or "@" in told.sender


@pytest.mark.parametrize(
    "header",
    [
        "Content-Type: ; *",
        'Content-Type: text/plain; charset*="x',
        "Content-Disposition: ;*=",
        "From: =?x?q?y?=",
    ],
)
def test_a_mail_with_a_broken_header_is_read_or_refused_in_words(header: str) -> None:
    told = words_or_refusal(f"From: a@b.example\nSubject: x\n{header}\n\nDial 28.5 mm".encode())
    assert "Dial 28.5 mm" in told or "a mail whose headers can be read" in told


def words_or_refusal(content: bytes) -> str:
    try:
        return text_of_file("x.eml", content).text
    except SheetError as refused:
        return str(refused)


def test_a_mail_of_many_parts_is_read_to_a_limit() -> None:
    nested = b"From: a@b.example\nSubject: x\nContent-Type: multipart/mixed; boundary=b\n\n"
    nested += (
        b"".join(b"--b\nContent-Type: text/plain\n\n \n" for _ in range(5_000))
        + b"--b\nContent-Type: text/plain\n\nDial\n--b--\n"
    )
    with pytest.raises(SheetError):
        text_of_file("x.eml", nested)
