"""People in a photo: faces and their features, the person, skin; and the face as a probe of casts.

Small networks by other people, read by OpenCV; docs/people.md has where they come from.
"""
