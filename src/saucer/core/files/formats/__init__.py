"""LUT file formats, one module each: a module that defines FORMAT is one."""
