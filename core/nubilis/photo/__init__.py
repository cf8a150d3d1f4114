"""Photos and grey pictures in and out, and their pixels at any scale.

What libraries keep for a whole process is set here and nowhere else.
"""

import pillow_heif
from PIL import Image, PngImagePlugin

# Our own limit is checked on the header, before anything is decoded.
Image.MAX_IMAGE_PIXELS = None
# Profiles of presses and long texts are larger than what it allows a PNG.
PngImagePlugin.MAX_TEXT_CHUNK = 16 * 2**20
# A picture alone is wanted, not what else is in its container.
pillow_heif.register_heif_opener(thumbnails=False, decode_threads=2)
