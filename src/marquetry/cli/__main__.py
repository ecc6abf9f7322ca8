"""`python -m marquetry.cli`, where the command itself is not on the path."""

import sys

from marquetry.cli import main

sys.exit(main())
