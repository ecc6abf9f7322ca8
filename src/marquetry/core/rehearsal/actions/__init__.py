"""What hands do to a twin, each with its real spread."""
