"""Chromatic adaptation by von Kries gains in Bradford's cone-like space.

Source: Lam (1985); matrix as in ICC.1:2022, annex E.
"""

import numpy as np

from nubilis.colour.rgb import D65, REC2020_TO_XYZ, Matrix, white_xyz

BRADFORD: Matrix = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)
D50_XYZ: Matrix = np.array([0.9642, 1.0, 0.8249])  # ICC's profile connection space
D65_XYZ = white_xyz(D65)


def adaptation_matrix(source_xyz: Matrix, target_xyz: Matrix) -> Matrix:
    """XYZ seen under the source white to the XYZ that looks the same under the target white."""
    gains = (BRADFORD @ target_xyz) / (BRADFORD @ source_xyz)
    return np.asarray(np.linalg.inv(BRADFORD) @ np.diag(gains) @ BRADFORD)


D65_TO_D50 = adaptation_matrix(D65_XYZ, D50_XYZ)
D50_TO_D65: Matrix = np.linalg.inv(D65_TO_D50)

# Linear Rec. 2020 to cones in which every neutral is (v, v, v).
_cones = BRADFORD @ REC2020_TO_XYZ
REC2020_TO_CONES: Matrix = _cones / _cones.sum(axis=1, keepdims=True)
CONES_TO_REC2020: Matrix = np.linalg.inv(REC2020_TO_CONES)
