"""The commands without a server beyond baking and applying, one module each: `add` puts a command's words on the parser."""
