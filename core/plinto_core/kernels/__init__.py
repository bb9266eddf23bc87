"""Numba kernels: the inner loops. Arrays in, arrays out; no checks beyond memory safety."""
