"""The fit model: what is computed about a watch, with no interface, no files and no clock."""
