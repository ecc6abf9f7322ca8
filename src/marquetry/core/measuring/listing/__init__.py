"""Reading what a seller writes: proposals for fields, each with the words it was read from; nothing is guessed."""
