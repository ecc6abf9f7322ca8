"""The client's answer as text: written by the sheet that was sent, typed by hand, read back here.

A line a wish, `Height, at most: agreed`, `Colours: rather a grey dial`, `Choice: the grey one`, and `Words:`
for all else. Order does not matter, and neither do capitals; what is not understood is told.
"""

import re
from dataclasses import dataclass

from marquetry.core.brief.letter import Spoken, read_letter
from marquetry.core.brief.topics import TOPICS, Topic

LONGEST_ANSWER = 20_000
MOST_LINES = 200
LINE = re.compile(r"\s*(?:[-*•]\s*)?([^:=]{1,60})[:=]\s*(.*)")
YES = re.compile(r"(?:agreed?|yes|ok(?:ay)?)\b[.!]?\s*(?:[,;–-]\s*)?(.*)", re.IGNORECASE)
UNLESS = re.compile(r"(?:but|if|only|rather|except|unless)\b[, ]*(.*)", re.IGNORECASE)
"""A yes that goes on like this is none: it is told as another wish."""
RATHER = re.compile(r"(?:rather|changed?(?: to)?|instead|no)\b\s*[,:–-]?\s*(.*)", re.IGNORECASE)
HEAD = "Answer to"


@dataclass(frozen=True, slots=True)
class Reply:
    """What is said of one wish: a yes, or another value, with words beside it."""

    topic: Topic
    agreed: bool
    value: str = ""
    words: str = ""


@dataclass(frozen=True, slots=True)
class ClientAnswer:
    """An answer as it is understood. `unread` are lines nothing was made of."""

    replies: tuple[Reply, ...]
    words: str = ""
    unread: tuple[str, ...] = ()
    spoken: tuple[Spoken, ...] = ()
    """Wishes that sentences speak of, where the answer is a letter: proposed, and none agreed to."""


NAMED = {name: topic for topic in TOPICS for name in (topic.key, topic.label.lower())}


def read_answer(text: str, today: str = "") -> ClientAnswer:
    """Understand an answer, or a letter in prose; whatever it holds, nothing is raised.

    A line of the sheet goes before a sentence on the same topic. `today` dates a day that names no year.
    """
    replies: dict[str, Reply] = {}
    unread: list[str] = []
    words: list[str] = []
    for line in text[:LONGEST_ANSWER].splitlines()[:MOST_LINES]:
        plain = " ".join(line.split())
        if not plain or plain.startswith(HEAD):
            continue
        found = LINE.fullmatch(plain)
        name, rest = (found[1].strip().lower(), found[2].strip()) if found else ("", "")
        if name in NAMED and rest:
            replies[name] = _reply(NAMED[name], rest)
        elif name == "words":
            words.append(rest)
        elif name not in NAMED:
            unread.append(plain)
    kept = {reply.topic.key: reply for reply in replies.values()}
    spoken = tuple(
        one
        for one in read_letter(text[:LONGEST_ANSWER], today)
        if one.topic.key not in kept and any(_is_within(one, line) for line in unread)
    )
    prose = tuple(Reply(one.topic, agreed=False, value=one.value, words=one.words) for one in spoken)
    left = tuple(line for line in unread if not any(_is_within(one, line) for one in spoken))
    return ClientAnswer((*kept.values(), *prose), " ".join(words), left, spoken)


def _is_within(spoken: Spoken, line: str) -> bool:
    """Whether a sentence stands in a line: no line of the sheet is read as prose as well."""
    return " ".join(spoken.words.split()) in line


def _reply(topic: Topic, rest: str) -> Reply:
    yes = YES.fullmatch(rest)
    if yes and (unless := UNLESS.fullmatch(yes[1])):
        return Reply(topic, agreed=False, value=unless[1].strip())
    if yes:
        return Reply(topic, agreed=True, words=yes[1])
    rather = RATHER.fullmatch(rest)
    said = rather[1] if rather else rest
    value, _, words = said.partition(" / ")
    return Reply(topic, agreed=False, value=value.strip(), words=words.strip())


def written_answer(answer: ClientAnswer, of: str) -> str:
    """The answer as the sheet writes it: `read_answer` reads it back."""
    lines = [f"{HEAD} {of}"]
    for reply in answer.replies:
        said = f"agreed, {reply.words}" if reply.agreed and reply.words else "agreed"
        if not reply.agreed:
            said = f"rather {reply.value}" + (f" / {reply.words}" if reply.words else "")
        lines.append(f"{reply.topic.label}: {said}")
    if answer.words:
        lines.append(f"Words: {answer.words}")
    return "\n".join(lines) + "\n"
