"""From the floor to steel: bars, brackets, nests, and the files that go to a shop."""
