"""What a PDF holds: objects, colour spaces, functions, images, shadings, graphics state."""
