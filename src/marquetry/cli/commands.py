"""What argparse collects commands in; it names the type nowhere itself."""

import argparse

Commands = argparse._SubParsersAction  # noqa: SLF001  # as above
