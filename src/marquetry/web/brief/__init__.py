"""The brief: what is wanted and by whom, the client's sheet and answer, the sign-off."""
