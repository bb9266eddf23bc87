"""Pages and pictures under a policy for the screen, and their plates."""
