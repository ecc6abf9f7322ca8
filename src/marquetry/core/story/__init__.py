"""What stays of a watch and what the workshop learns. Nothing yet: the stage is to come."""
