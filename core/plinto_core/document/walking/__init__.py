"""The walk through a document: every coloured object met once, rewritten and listed."""
