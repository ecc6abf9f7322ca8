"""What stays of a watch and what the workshop learned, drawn."""
