"""Nubilis core: finds and neutralises local colour casts, and proves what it did.

Imports neither Django nor anything of HTTP. A recipe says what to do; the engine turns
(photo, recipe, view) into pixels.
"""

import os

# What Intel's part of OpenCV computes depends on where in memory a picture lies: the same recipe would not
# give the same bits. It can be switched off for all threads only before OpenCV is loaded, which tells it.
os.environ["OPENCV_IPP"] = "disabled"
os.environ.setdefault("OPENCV_LOG_LEVEL", "ERROR")
