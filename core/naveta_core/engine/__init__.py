"""What every check that is read as rows of figures has in common: its entry, its reading, its verdict, its table."""
