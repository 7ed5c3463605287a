"""The link to a motor controller: the line protocol, the careful client, and a simulated controller that speaks it.

No Django: the application's worker uses the client, the simulated controller runs as a process of its own. The protocol is
described in ``docs/controller-protocol.md``.
"""
