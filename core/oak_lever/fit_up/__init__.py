"""As built: where mounts came to stand by readings at the truck, and what the axle does with them."""
