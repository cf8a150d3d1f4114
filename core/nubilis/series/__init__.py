"""Series of like photos: what is masked on one, found again on the others."""
