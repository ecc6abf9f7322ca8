"""Pages: read input, call store and core, render. No rule and no formula of the trade lives here."""
