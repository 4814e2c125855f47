"""Where the stand is and which way it looks: free station and backsight over control points."""
