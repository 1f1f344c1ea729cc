"""Help where the question arises: what a page is for, words with pictures, why the rule says what
it says, and how everything is computed.
"""
