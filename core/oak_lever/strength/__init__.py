"""What links, joints and bolts carry: statics of the axle in each load case, and strength of the bars."""
