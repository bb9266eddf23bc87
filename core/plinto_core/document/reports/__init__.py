"""What a run says of a document, as a model and as pages."""
