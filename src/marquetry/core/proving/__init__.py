"""What a finished watch is proved by. Nothing yet: the stage is to come."""
