"""Lists of jobs, and finding one."""
