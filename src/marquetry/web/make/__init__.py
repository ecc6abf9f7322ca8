"""The parts nobody sells: each on its page, its versions, batches of blanks, trials of finishes."""
