"""Who looks at a job, and what changed on it, as it happens."""
