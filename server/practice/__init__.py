"""What people practised, and who may work alone. Never mixed with records of real instruments."""
