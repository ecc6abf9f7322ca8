"""A sum shared out so that the shares add up to it exactly: by the largest remainder."""

from collections.abc import Sequence
from fractions import Fraction


def shared(minor: int, weights: Sequence[int | Fraction]) -> list[int]:
    """Shares of `minor` minor units by weight, whole and adding up to it.

    What is left over goes to the largest remainders, ties to the earlier; equal where nothing weighs
    anything. A negative sum is shared as the positive one and turned, so that what is given back goes as it
    came. ValueError where a weight is negative.
    """
    if any(weight < 0 for weight in weights):
        raise ValueError("no weight may be negative")
    if minor < 0:
        return [-share for share in shared(-minor, weights)]
    if not weights:
        return []
    held = list(weights) if any(weights) else [1] * len(weights)
    whole = sum(held, Fraction(0))
    exact = [minor * Fraction(weight) / whole for weight in held]
    shares = [int(share) for share in exact]
    by_rest = sorted(range(len(exact)), key=lambda place: (shares[place] - exact[place], place))
    for place in by_rest[: minor - sum(shares)]:
        shares[place] += 1
    return shares
