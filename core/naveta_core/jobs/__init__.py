"""Which instruments are fit for a job: what each can do there, what would change it, and the shortest checks of a fit kit."""
