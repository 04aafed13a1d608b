"""A service that cuts plates, asked over HTTP: what it takes and for how much, an order, how far that is."""
