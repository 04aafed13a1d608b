"""ROOM: how near everything that moves comes to everything else, through travel and articulation."""
