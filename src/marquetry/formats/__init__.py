"""Open formats in and out, one file each."""
