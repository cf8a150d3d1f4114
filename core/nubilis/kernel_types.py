"""Types of kernels' arguments: float32 unless the name says otherwise, rows lying side by side."""

import numba as nb

real, double, number, small_number = nb.float32, nb.float64, nb.int64, nb.int32
flag = nb.boolean
line, plane, planes, stack = real[::1], real[:, ::1], real[:, :, ::1], real[:, :, :, ::1]
flags, doubles_plane = nb.boolean[::1], nb.float64[:, ::1]
whole_plane, flags_plane = nb.int32[:, ::1], nb.boolean[:, ::1]
codes8, codes16 = nb.uint8[:, :, ::1], nb.uint16[:, :, ::1]
table8 = nb.uint8[:, ::1]

# Whose rows may lie apart in memory: regions of larger ones.
part_of_planes = real[:, :, :]
part_of_codes8, part_of_codes16 = nb.uint8[:, :, :], nb.uint16[:, :, :]
