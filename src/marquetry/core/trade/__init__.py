"""What to buy where and what it costs. Nothing yet: the stage is to come."""
