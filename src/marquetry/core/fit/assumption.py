"""Which dimensions are known by assumption only."""

from marquetry.core.sheet.build import Build


def is_assumed(build: Build, path: str) -> bool:
    """Whether the dimension at the path is known by assumption only."""
    dimension = build.dimensions.get(path)
    return dimension is not None and not dimension.source.is_known
