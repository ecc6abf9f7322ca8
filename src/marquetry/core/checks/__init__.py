"""All checks, in the order in which a builder reads them: from the dial outwards."""

from marquetry.core.checks import dial, feet, hands, movement
from marquetry.core.checks.check import Check

CHECKS: tuple[Check, ...] = (*dial.CHECKS, *feet.CHECKS, *movement.CHECKS, *hands.CHECKS)
CHECK_BY_NAME = {check.name: check for check in CHECKS}
