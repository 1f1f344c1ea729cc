"""The computation: pure, typed, without Django, a clock or chance of its own.

SI units inside (metres, seconds); rates are 0..1; dates are calendar days.
Values go in, a new value and the reason come out.
"""
