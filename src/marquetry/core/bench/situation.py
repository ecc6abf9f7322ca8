"""What the steps of a watch are told from: its parts, the findings on them, and the workshop's schools."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from hashlib import blake2b

from marquetry.core.bench.stem import StemOf
from marquetry.core.fit.checks.feet import FEET, FeetTold, feet_told
from marquetry.core.fit.checks.hands import press_plan
from marquetry.core.fit.checks.words import Issues
from marquetry.core.fit.report import Report
from marquetry.core.fit.rules import Rules
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import cutouts_of
from marquetry.core.sheet.described.words import HANDS
from marquetry.core.sheet.statements import ARRIVES_WITH, DRIVE, STAYS, Alteration

STEP_OF_KIND = {
    "feet_off": "remove_feet",
    "holes_drilled": "drill_feet_holes",
    "post_out": "take_out_seconds_post",
    "stem_cut": "cut_stem",
}
"""Alterations that have a step of the table; every other has one of its own."""


LONGEST_STEP = 40
"""Letters of a step's name in the book of taps."""
PARTS_ADDRESS = re.compile(r"[/\\?#%&\x00-\x1f\x7f]")
"""What a step's name may not hold: its screen has an address, and a sheet may come from anywhere."""


def alteration_step(alteration: Alteration) -> str:
    """The step that does an alteration; of a name that no address can carry its beginning and a digest."""
    name = f"alter:{alteration.id}"
    parts_address = PARTS_ADDRESS.search(name)
    if len(name) > LONGEST_STEP or parts_address:
        digest = blake2b(alteration.id.encode(), digest_size=6).hexdigest()
        begins = name[: parts_address.start()] if parts_address else name
        name = f"{begins[: LONGEST_STEP - len(digest) - 1]}-{digest}"
    return STEP_OF_KIND.get(alteration.kind, name)


def _taken_off(alteration: Alteration) -> tuple[int, ...]:
    """Numbers, from 0, of the feet that an alteration takes off."""
    change = next((one for one in alteration.changes if one.path == FEET), None)
    if change is None or not isinstance(change.before, list):
        return ()
    left = list(change.after or [])
    gone: list[int] = []
    for number, foot in enumerate(change.before):
        if foot in left:
            left.remove(foot)
        else:
            gone.append(number)
    return tuple(gone)


CALENDAR = ("date", "day")
DONOR = "donor"
CASE = "case"
RATING = "case.water_rating_m"


@dataclass(frozen=True)
class Situation:
    """One watch on the bench: its report, and the donors that pieces come out of, by the part's key."""

    report: Report
    donors: Mapping[str, str] = field(default_factory=dict)
    kept: frozenset[str] = frozenset()
    """Steps that were answered here: what they did to a part still stands in the list."""

    @property
    def build(self) -> Build:
        """The parts."""
        return self.report.build

    @property
    def rules(self) -> Rules:
        """The workshop's rules, schools among them."""
        return self.report.rules

    @property
    def real(self) -> Build:
        """The parts as they really are, whatever is planned for them."""
        return self.report.real

    @cached_property
    def alterations(self) -> tuple[Alteration, ...]:
        """What is to be done to bought parts, and what was done to them here."""
        every = self.real.alterations
        return tuple(one for one in every if one.done is None or alteration_step(one) in self.kept)

    def altering(self, kind: str) -> Alteration | None:
        """The alteration of that kind, where there is one."""
        return next((one for one in self.alterations if one.kind == kind), None)

    def has(self, *parts: str) -> bool:
        """Whether all these are in the sheet."""
        return all(self.build.has(part) for part in parts)

    def school(self, key: str) -> str:
        """The workshop's choice."""
        return self.rules.school(key)

    def word(self, path: str) -> str:
        """A word of the sheet, such as how the dial is held; empty where it is not said."""
        found = self.build.at(path)
        return found if isinstance(found, str) else ""

    def flag(self, path: str) -> bool:
        """Whether the sheet says yes."""
        return self.build.at(path) is True

    def names(self, path: str) -> tuple[str, ...]:
        """A list of words of the sheet."""
        found = self.build.at(path)
        return tuple(name for name in found if isinstance(name, str)) if isinstance(found, list) else ()

    @cached_property
    def hands(self) -> tuple[str, ...]:
        """The hands to press, from the dial upwards."""
        return tuple(hand for hand in HANDS if self.build.has(f"hands.{hand}"))

    @cached_property
    def feet(self) -> FeetTold | None:
        """What `dial_feet` tells by sizes that are known; None where it rests on anything else."""
        finding = self.report.findings["dial_feet"]
        return None if finding.is_open else feet_told(finding)

    @property
    def dial_on(self) -> bool | None:
        """Whether the dial was laid on its movement and fits; None where nobody tried."""
        tried = self.real.tried.get("dial_on")
        if tried is None or tried.fits:
            return None if tried is None else True
        return None if tried.misses and "dial_feet" not in tried.misses else False

    @property
    def feet_counted(self) -> int:
        """How many feet the dial is described with."""
        return self.build.count(FEET)

    @property
    def feet_miss(self) -> bool:
        """Whether it is known, by sizes that were read or by trying, that no two feet meet holes."""
        if self.dial_on is not None:
            return not self.dial_on and self.feet_counted > 0
        return self.feet is not None and not self.feet.pairs

    @property
    def drive(self) -> str:
        """What drives the movement; empty where nobody said, or a family only assumed it."""
        return "" if DRIVE in self.real.assumed_words else self.word(DRIVE)

    @property
    def has_rotor(self) -> bool:
        """Whether the movement winds itself: so unless it is said to be driven otherwise."""
        return self.build.has_rotor

    @cached_property
    def assembled(self) -> frozenset[str]:
        """Parts that came on the case and stay on it: nothing is planned for them.

        A crown whose gasket did not come with it is opened for the gasket all the same.
        """
        group = frozenset[str]().union(*(one for one in self.real.together if CASE in one))
        altered = {key for key in group if any(one.touches(key) for one in self.alterations)}
        found = {key for key in group - altered - {CASE} if self.has(key)}
        if self.has("crown_gasket") and "crown_gasket" not in found:
            found.discard("crown")
        return frozenset(found)

    def to_fit(self, *parts: str) -> bool:
        """Whether none of these parts came assembled: then their own steps stand."""
        return self.assembled.isdisjoint(parts)

    @cached_property
    def arrived(self) -> tuple[str, ...]:
        """Which of dial and hands the movement arrives with; a donor's are the donor steps' work."""
        return () if "movement" in self.from_donors else self.names(ARRIVES_WITH)

    @cached_property
    def arrived_stays(self) -> bool:
        """Whether what the movement arrives with is this watch's own and stays on it.

        It cannot where anything is to be done under the dial, or to the parts that it consists of.
        """
        if not self.names(ARRIVES_WITH) or not self.flag(STAYS):
            return False
        under = self.has("calendar_disc") or self.has("dial_adapter") or bool(self.spacers("movement"))
        altered = any(one.touches(part) for one in self.alterations for part in ("movement", "dial", "hands"))
        return not (under or altered or self.loses_seconds)

    def stays(self, part: str) -> bool:
        """Whether dial or hands arrived on the movement and stay there: the dial wherever anything does."""
        return self.arrived_stays and (part == "dial" or part in self.names(ARRIVES_WITH))

    @property
    def loses_seconds(self) -> bool:
        """Whether the seconds pinion is to be taken out."""
        if self.altering("post_out"):
            return True
        idle = self.build.has("movement.posts.seconds") and not self.build.has("hands.seconds")
        return idle and self.flag("movement.remove_seconds_post")

    @property
    def drills(self) -> bool:
        """Whether new holes are drilled for feet that miss: planned, or the workshop's way."""
        if self.altering("holes_drilled"):
            return True
        if self.altering("feet_off") or self.has_pads:
            return False
        return self.feet_miss and self.school("school_feet") == "new_holes"

    @property
    def has_pads(self) -> bool:
        """Whether the sheet says that pads hold the dial."""
        return self.word("dial.fastening.kind") == "pads"

    @property
    def removed_feet(self) -> tuple[int, ...]:
        """Numbers, from 0, of the feet to come off: as planned, else those that are known to miss."""
        planned = self.altering("feet_off")
        if planned is not None:
            return _taken_off(planned)
        if self.drills or self.dial_on is True:
            return ()
        if self.feet is not None:
            return self.feet.remove
        # The dial was laid on and its feet miss: which ones nobody read, so all, where they are a pair.
        few = self.feet_counted <= 2  # noqa: PLR2004  # of more some may well meet
        return tuple(range(self.feet_counted)) if self.dial_on is False and few else ()

    @property
    def on_pads(self) -> bool:
        """Whether nothing but adhesive pads holds the dial."""
        footless = self.feet_miss or self.has_pads or (self.has("dial") and self.feet_counted == 0)
        return footless and not self.drills and not self.has("dial_adapter")

    @cached_property
    def windows(self) -> tuple[str, ...]:
        """What of the calendar the dial shows, told in words or cut into it."""
        cut = (self.word(f"{path}.for") for path in cutouts_of(self.build))
        return tuple(dict.fromkeys((*self.names("dial.windows"), *(c for c in cut if c in CALENDAR))))

    @cached_property
    def unshown(self) -> tuple[str, ...]:
        """Parts of the movement's calendar that the dial has no window for."""
        functions, windows = self.names("movement.functions"), self.windows
        return tuple(c for c in CALENDAR if self.has("dial") and c in functions and c not in windows)

    @cached_property
    def stripped(self) -> tuple[str, ...]:
        """What of the calendar is taken off: never what the dial shows."""
        strips = self.school("school_calendar") == "strip_calendar" and not self.arrived_stays
        return self.unshown if strips else ()

    @cached_property
    def calendar(self) -> tuple[str, ...]:
        """What of the calendar the movement keeps."""
        functions = self.names("movement.functions")
        return tuple(c for c in CALENDAR if c in functions and c not in self.stripped)

    @property
    def shows_calendar(self) -> bool:
        """Whether a window shows what the movement keeps."""
        return any(c in self.windows for c in self.calendar)

    def spacers(self, side: str) -> tuple[int, ...]:
        """Numbers of the spacers on that side."""
        count = self.build.count("spacers")
        return tuple(k for k in range(count) if self.word(f"spacers.{k}.side") == side)

    @cached_property
    def shims(self) -> Mapping[str, float]:
        """The press plan: height of each blade's underside over the dial, mm; empty where there is none."""
        plan = press_plan(self.report.findings["hand_stack"])
        return plan.heights if plan else {}

    @cached_property
    def stem(self) -> StemOf:
        """What the sheet knows of the stem as it is; a cut that rests on what is assumed is not known."""
        bought = self.real
        for one in reversed(self.alterations):
            # The ledger counts from the stem as it was bought, though its cut is written into the sheet.
            if one.kind == "stem_cut" and one.done:
                bought = bought.restored(one)
        told = StemOf.sheet(bought, self.rules)
        return replace(told, start=None) if self.report.findings["stem_cut"].is_open else told

    @property
    def cuts_stem(self) -> bool:
        """Whether the stem has to be cut, or may have to: planned and not known count."""
        return self.altering("stem_cut") is not None or self.stem.start is None or self.stem.start.r > 0

    def issue(self, check: str) -> str:
        """The first issue that a check in words tells; empty where it is clear or has nothing to say."""
        detail = self.report.findings[check].detail
        return detail.issues[0] if isinstance(detail, Issues) and detail.issues else ""

    def clear(self, check: str) -> bool:
        """Whether the check was asked and found nothing."""
        found = self.report.findings[check]
        return found.verdict.value == "clear"

    @property
    def claimed_depth(self) -> float | None:
        """Depth to which it is to be tight, metres: as wished, else as its case claims."""
        wished = self.build.target("water_depth_m")
        rated = self.build.at(RATING)
        claims = isinstance(rated, int | float) and RATING not in self.real.assumed_words
        return wished or (float(rated) if claims else None) or None

    @cached_property
    def from_donors(self) -> Mapping[str, str]:
        """Donor of each part that comes out of one: the sheet's own word, else where its piece came from."""
        told = {key: self.word(f"{key}.{DONOR}") for key in self.build.parts}
        return {**self.donors, **{key: name for key, name in told.items() if name}}
