"""The made-up scenes. Each module renders one picture and says how it is stored."""
