"""One watch: its plate, findings and parts, and every edit of it."""
