"""A seller's text read on a page: the parts it is about, what each would change, and what is taken of it."""
