"""The shelf: parts, pieces, donors, files in and out."""
