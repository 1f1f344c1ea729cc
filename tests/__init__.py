"""The tests. A time limit an example would only measure how busy the machine is: speed is shown in
`./ladder bench`.
"""

from hypothesis import settings

settings.register_profile("ours", deadline=None)
settings.load_profile("ours")
