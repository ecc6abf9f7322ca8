"""A workshop companion that knows whether a watch built from bought parts will go together."""

__version__ = "0.1.0"
