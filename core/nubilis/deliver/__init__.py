"""A treated photo as files for elsewhere, with what those need who go on there."""
