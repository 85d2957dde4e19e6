"""Moving pictures: clips and numbered sequences, read frame by frame at full depth, and written."""
