"""The Finder: which parts go with which, by the report's own formulas over columns of parts."""
