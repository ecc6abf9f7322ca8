"""A part of one watch that is made here: its solid, where its sizes come from, its features on and off."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from marquetry.core.fit.rules import Rules
from marquetry.core.making.features import MadeFeature
from marquetry.core.making.kinds import MADE, MadeKind
from marquetry.core.making.measures import Measure
from marquetry.core.making.notes import PrintSetting
from marquetry.core.making.proposals import SizeProposal, SizeRow, proposals
from marquetry.core.making.shape import Solid
from marquetry.core.making.sizes import CROWN, Sizes
from marquetry.core.sheet.build import Build
from marquetry.core.sheet.date_window import with_one_date_window
from marquetry.core.values.errors import DimensionError, NotFoundError

BY_KEY = {kind.key: kind for kind in MADE}

MOST_ROUNDS = 8
"""So often proposals are taken anew: a plate, its ring and a wall settle in three."""
MISSING_HEIGHT = "school_height"
"""The school that says on which side a spacer is laid."""


@dataclass(frozen=True, slots=True)
class MadePart:
    """A part of a watch that is made here: `name` as commands say it, `path` where it stands in the sheet."""

    kind: MadeKind
    path: str
    build: Build
    rules: Rules

    @property
    def name(self) -> str:
        """As commands and addresses name it: `holder`, `spacer:0`."""
        return f"{self.kind.key}:{self.path.rpartition('.')[2]}" if self.kind.is_many else self.kind.key

    @property
    def file_name(self) -> str:
        """The same as a file is called."""
        return self.name.replace(":", "")

    @property
    def label(self) -> str:
        """What a builder calls it."""
        return (
            f"{self.kind.label} {int(self.path.rpartition('.')[2]) + 1}"
            if self.kind.is_many
            else self.kind.label
        )

    @property
    def sizes(self) -> Sizes:
        """The sizes it is made from."""
        return Sizes(self.build)

    @property
    def is_there(self) -> bool:
        """Whether the sheet has it."""
        return self.build.has(self.path)

    @property
    def has_its_needs(self) -> bool:
        """Whether the sheet has what this is drawn of, such as the cut-outs of a sheet of cut-outs."""
        return not self.kind.needs or self.build.count(self.kind.needs) > 0

    def solid(self) -> Solid | None:
        """The part as a solid, None for a sheet; DimensionError names the field for which it cannot be made."""
        if not self.is_there:
            raise DimensionError(self.path, "nothing", "", f"a {self.kind.label.lower()} in the sheet")
        return None if self.kind.solid is None else self.kind.solid(self.sizes, self.path)

    def measures(self) -> tuple[Measure, ...]:
        """What of it is measured, mm."""
        return tuple(self.kind.measures(self.sizes, self.path))

    def notes(self, setting: PrintSetting) -> tuple[str, ...]:
        """What is said of printing or turning it."""
        told = tuple(self.kind.notes(self.sizes, self.path, setting))
        turned = self.kind.is_turned and not self.sizes.known(CROWN)
        return (*told, "The case does not say where its crown is: made for three o'clock") if turned else told

    def proposals(self) -> dict[str, SizeProposal]:
        """What the watch proposes for its fields, by path, those of features that are on as well."""
        rows = list(self.kind.rows(self.build, self.path))
        for feature in self.kind.features:
            if self.has(feature):
                rows += feature.rows_present(self.build, self.path)
        return {found.path: found for found in proposals(tuple(rows), self.build, self.rules)}

    def proposed(self, path: str = "") -> Build:
        """The watch with the size at the path as it is proposed; with every size where no path is given.

        Proposals rest on each other, so all are taken until nothing changes any more: a second press would
        find nothing to do. A size that is as proposed already keeps what it rests on.
        """
        part, build = self, self.build
        for _ in range(MOST_ROUNDS):
            for found in part.proposals().values():
                if path in {"", found.path} and not found.is_so(build):
                    build = build.with_entry(found.path, found.entry(build))
            if build == part.build:
                break
            part = replace(part, build=build)
        return with_one_date_window(self.build, build)

    def has(self, feature: MadeFeature) -> bool:
        """Whether the feature is on."""
        return any(self.build.has(f"{self.path}.{entry}") for entry in feature.entries)

    def begun(self) -> Build:
        """The watch with this part in it, at the sizes that it proposes; what is known already stays."""
        build = self.build if self.is_there else self._empty()
        return _filled(build, self.kind.rows(build, self.path), self.rules)

    def _empty(self) -> Build:
        """The watch with the part in it, nothing of it known yet but the side a spacer goes to."""
        if not self.kind.is_many:
            return self.build.with_entry(self.path, {})
        if int(self.path.rpartition(".")[2]) != self.build.count(self.kind.part):
            raise NotFoundError(f"{self.label.lower()} yet: the one before it comes first")
        side = self.rules.school(MISSING_HEIGHT).removeprefix("spacer_")
        return self.build.with_entry(f"{self.kind.part}.-", {"side": side})

    def with_feature(self, key: str) -> Build:
        """The watch with a feature of the part on, at the sizes that the watch proposes."""
        feature = self.feature(key)
        made = _filled(self.build, feature.rows(self.build, self.path), self.rules)
        return with_one_date_window(self.build, made)

    def without_feature(self, key: str) -> Build:
        """The watch with a feature of the part off."""
        build = self.build
        for entry in self.feature(key).entries:
            if build.at(f"{self.path}.{entry}") is not None:
                build = build.without(f"{self.path}.{entry}")
        return build

    def feature(self, key: str) -> MadeFeature:
        """The feature of that name; NotFoundError where the part has none."""
        found = next((feature for feature in self.kind.features if feature.key == key), None)
        if found is None:
            raise NotFoundError(f"feature “{key[:30]}” of a {self.kind.label.lower()}")
        return found


def _filled(build: Build, rows: tuple[SizeRow, ...], rules: Rules) -> Build:
    """The build with every row's field set where it is not known; later rows see earlier ones."""
    for row in rows:
        if build.at(row.path) is None:
            (found,) = proposals((row,), build, rules)
            many, _, _ = row.path.rpartition(".")
            owner, _, number = many.rpartition(".")
            if number.isdecimal() and int(number) == build.count(owner):
                build = build.with_entry(f"{owner}.-", {})
            build = build.with_entry(row.path, found.entry(build))
    return build


def made_part(name: str, build: Build, rules: Rules) -> MadePart:
    """The part of that name, as `holder` or `spacer:0`; NotFoundError where none is made by it."""
    key, _, number = name.partition(":")
    kind = BY_KEY.get(key)
    is_numbered = number.isascii() and number.isdecimal() and len(number) < 3  # noqa: PLR2004  # a list has eight
    if kind is None or kind.is_many != is_numbered or (number and not kind.is_many):
        raise NotFoundError(f"part “{name[:40]}” to be made; there are {', '.join(_names())}")
    path = f"{kind.part}.{int(number)}" if kind.is_many else kind.part
    return MadePart(kind, path, build, rules)


def made_name(path: str) -> str:
    """The name by which what stands at a path of a sheet is made, as `spacer:0`; nothing for what is bought."""
    part, _, number = path.partition(".")
    kind = next((kind for kind in MADE if kind.part == part), None)
    if kind is None or kind.is_many != number.isdecimal() or (number and not kind.is_many):
        return ""
    return f"{kind.key}:{number}" if kind.is_many else kind.key


def _names() -> Iterator[str]:
    for kind in MADE:
        yield f"{kind.key}:0" if kind.is_many else kind.key
