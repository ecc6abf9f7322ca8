"""A seller's file as text: a saved mail, a page in HTML, or plain text. Nothing of HTML is kept or run.

The standard library's parsers read both: a mail's parts may be nested, encoded and in any letters, and a
page's tags need no judging where only its words are wanted.
"""

import re
from dataclasses import dataclass
from email import policy
from email.errors import MessageError
from email.header import decode_header, make_header
from email.message import Message
from email.parser import BytesParser
from email.utils import parseaddr
from html.parser import HTMLParser

from marquetry.core.values.errors import SheetError

MOST_BYTES = 2_000_000
"""A mail with its pictures has some hundred kilobytes; its text is a small part of that."""
MOST_PARTS = 200
SILENT = frozenset({"script", "style", "head", "title", "template", "svg", "noscript", "object", "iframe"})
"""What a reader of the page never sees."""
NEW_LINE = frozenset(["div", "br", "li", "tr", "blockquote", "pre"])
PARAGRAPH = frozenset(
    ["p", "table", "ul", "ol", "section", "article", "hr", "h1", "h2", "h3", "h4", "h5", "h6"]
)
CELL = frozenset({"td", "th"})


@dataclass(frozen=True, slots=True)
class SellerText:
    """The words of a file, and the mail address that they came from, where it is a mail."""

    text: str
    sender: str = ""


class _Words(HTMLParser):
    """The words of a page, a line a block, cells apart by tabs."""

    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.words: list[str] = []
        self.silent = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        del attrs
        self.silent += tag in SILENT
        self._break(tag)

    def handle_startendtag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        del attrs
        self._break(tag)

    def handle_endtag(self, tag: str) -> None:
        self.silent = max(self.silent - (tag in SILENT), 0)
        if tag in CELL:
            self.words.append("\t")
        self._break(tag)

    def handle_data(self, data: str) -> None:
        if not self.silent:
            before, after = (" " if edge.isspace() else "" for edge in (data[:1], data[-1:]))
            self.words.append(f"{before}{' '.join(data.split())}{after}" if data.strip() else " ")

    def _break(self, tag: str) -> None:
        if tag in PARAGRAPH:
            self.words.append("\n\n")
        elif tag in NEW_LINE:
            self.words.append("\n")


def text_of_file(name: str, content: bytes) -> SellerText:
    """The words of a file; which form it has its content says, its name only where the content does not.

    SheetError for one too large or without words.
    """
    if len(content) > MOST_BYTES:
        raise SheetError("the file", f"at most {MOST_BYTES / 1e6:g} MB", f"{len(content) / 1e6:.1f} MB")
    if _is_mail(name, content):
        found = _mail(content)
    else:
        text = _decoded(content)
        found = SellerText(_page(text) if _is_page(name, text) else text)
    if not any(map(str.isalnum, found.text)):
        raise SheetError("the file", "a mail, a page or a text with words in it", name[:40] or "none")
    return found


def _is_mail(name: str, content: bytes) -> bool:
    head = content[:4000].lower()
    has_headers = b"\nfrom:" in b"\n" + head and (b"\nsubject:" in head or b"\nmime-version:" in head)
    return name.lower().endswith(".eml") or has_headers


def _is_page(name: str, text: str) -> bool:
    start = text.lstrip()[:2000].lower()
    return (
        name.lower().endswith((".html", ".htm"))
        or start.startswith(("<!doctype html", "<html"))
        or "<body" in start
    )


def _decoded(content: bytes) -> str:
    """UTF-8, or what older programs wrote: no byte is refused."""
    for code in ("utf-8-sig", "utf-16" if content[:2] in {b"\xff\xfe", b"\xfe\xff"} else "utf-8"):
        try:
            return content.decode(code).replace("\0", " ")
        except UnicodeDecodeError:
            continue
    return content.decode("cp1252", "replace").replace("\0", " ")


BROKEN = (MessageError, LookupError, ValueError, TypeError, AttributeError)
"""What the library raises on headers that no standard knows, a name of letters among them."""


def _mail(content: bytes) -> SellerText:
    """The first words of a mail, plain ones before a page's. SheetError where its headers cannot be read.

    By the older policy: the newer one reads every header by its grammar, and stops at a mail that breaks it.
    """
    try:
        message = BytesParser(policy=policy.compat32).parsebytes(content)
        sender = parseaddr(str(make_header(decode_header(str(message.get("from", ""))))))[1].casefold()[:200]
        plain, page = _words_of(message)
    except BROKEN:
        raise SheetError("the file", "a mail whose headers can be read", "broken ones") from None
    return SellerText(plain if plain.strip() else _page(page), sender if "@" in sender else "")


def _words_of(message: Message) -> tuple[str, str]:
    """The first plain text of a mail that says something, and its first page; attachments aside."""
    plain, page = "", ""
    for place, part in enumerate(message.walk()):
        if place >= MOST_PARTS:
            break
        kind = part.get_content_type()
        if part.is_multipart() or part.get_content_disposition() == "attachment":
            continue
        if kind == "text/plain" and not plain.strip():
            plain = _content(part)
        elif kind == "text/html" and not page.strip():
            page = _content(part)
    return plain, page


def _content(part: Message) -> str:
    payload = part.get_payload(decode=True)
    if not isinstance(payload, bytes):
        return ""
    try:
        return payload.decode(part.get_content_charset() or "utf-8", "replace").replace("\0", " ")
    except LookupError:
        return _decoded(payload)


def _page(html: str) -> str:
    words = _Words()
    words.feed(html)
    words.close()
    lines = [re.sub(" {2,}", " ", line).strip(" ") for line in "".join(words.words).split("\n")]
    kept = [line.strip("\t") if not line.strip() else line.rstrip("\t") for line in lines]
    return "\n".join(line for place, line in enumerate(kept) if line or (place and kept[place - 1])).strip(
        "\n"
    )
