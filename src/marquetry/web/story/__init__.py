"""What stays of a watch, and what the workshop learns: the pages of the story."""
