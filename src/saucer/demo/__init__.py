"""The made-up studio: scenes, pictures, people and looks for the demo and the screenshots."""
