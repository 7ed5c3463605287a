"""What an electric skateboard will do, and what limits it.

The computation behind Sand Pocket, usable alone: a build file in, a prediction out. No web, no database.
"""

__version__ = "0.1.0"
