"""What two build sheets differ by, as a JSON Patch (RFC 6902): add, remove and replace, nothing else."""

from collections.abc import Iterator, Mapping

from marquetry.core.sheet.entries import Json

Operation = dict[str, Json]


def patch_between(before: Json, after: Json) -> list[Operation]:
    """The operations that lead from one document to the other, in the order in which they are applied."""
    return list(_operations("", before, after))


def _operations(at: str, before: Json, after: Json) -> Iterator[Operation]:
    if before == after and isinstance(before, bool) == isinstance(after, bool):
        return
    if isinstance(before, Mapping) and isinstance(after, Mapping):
        yield from _of_mappings(at, before, after)
    elif isinstance(before, list) and isinstance(after, list):
        yield from _of_lists(at, before, after)
    else:
        yield {"op": "replace", "path": at, "value": after}


def _of_mappings(at: str, before: Mapping[str, Json], after: Mapping[str, Json]) -> Iterator[Operation]:
    for key in sorted(before.keys() - after.keys()):
        yield {"op": "remove", "path": _below(at, key)}
    for key, value in after.items():
        if key in before:
            yield from _operations(_below(at, key), before[key], value)
        else:
            yield {"op": "add", "path": _below(at, key), "value": value}


def _of_lists(at: str, before: list[Json], after: list[Json]) -> Iterator[Operation]:
    shared = min(len(before), len(after))
    for index in range(shared):
        yield from _operations(f"{at}/{index}", before[index], after[index])
    for index in reversed(range(shared, len(before))):
        yield {"op": "remove", "path": f"{at}/{index}"}
    for value in after[shared:]:
        yield {"op": "add", "path": f"{at}/-", "value": value}


def _below(at: str, key: str) -> str:
    return f"{at}/{key.replace('~', '~0').replace('/', '~1')}"
