"""How often and how much at once: counts that hold over all processes, and turns within one."""
