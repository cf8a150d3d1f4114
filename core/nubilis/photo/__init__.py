"""Photos and grey pictures in and out, and their pixels at any scale.

What libraries keep for a whole process is set here and nowhere else.
"""

import pillow_heif
from PIL import Image

# Our own limit is checked on the header, before anything is decoded.
Image.MAX_IMAGE_PIXELS = None
# A picture alone is wanted, not what else is in its container.
pillow_heif.register_heif_opener(thumbnails=False, decode_threads=2)
