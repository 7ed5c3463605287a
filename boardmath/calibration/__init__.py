"""What rides teach: each measured figure judged, the joint prior updated, told input by input."""
