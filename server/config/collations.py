"""How the database compares text where the schema's own way (accents and case do not count) is not meant."""

EACH_LETTER = "utf8mb4_uca1400_nopad_as_ci"  # Grün is not Grun; capitals do not count
EXACT = "utf8mb4_nopad_bin"  # of what was folded before it came
