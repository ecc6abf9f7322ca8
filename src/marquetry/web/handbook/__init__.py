"""The handbook: how the program is used, for builders, with drawings that the program makes itself."""
