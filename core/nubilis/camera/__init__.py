"""A simulated camera: rendered scenes as raw files, for trying out what arrives from one."""
