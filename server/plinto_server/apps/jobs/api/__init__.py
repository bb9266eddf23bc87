"""The API of jobs, by what is asked for."""
