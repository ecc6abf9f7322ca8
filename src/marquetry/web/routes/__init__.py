"""One file a kind of page."""
