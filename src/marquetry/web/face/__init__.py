"""How the watch looks: its face by day and night, on the wrist, dressed in parts of the shelf."""
