"""The facts of jobs: what clients give, how rows are read and written, what happened; rows as the core's document."""
