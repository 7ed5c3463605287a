"""The web application. One numeric thread a process: requests, workers and tests share the cores, and threads of one sum that
wait for those of another make everybody slower. Said here, before NumPy is loaded; the environment can say otherwise.
"""

import os

for _threads in ("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "SAND_POCKET_ENGINE_THREADS"):
    os.environ.setdefault(_threads, "1")
