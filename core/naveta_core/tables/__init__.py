"""Tables made by others: which column is what, in which unit, and what comes of it. Nothing here knows a kind of check."""
