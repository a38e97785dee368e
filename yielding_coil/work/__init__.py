"""Take work from the line of a database and do it: searches and comparisons, on any machine that reaches it."""
