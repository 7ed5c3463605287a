"""Work that takes its time: asked for by a person, done by a worker of its own, fetched when it is done.

An API registers what it makes with :func:`server.jobs.handlers.job_handler` and asks with :func:`server.jobs.services.ask`;
the person looks, stops and fetches at ``/api/jobs``. Each person has one job done at a time, whoever has asked for how much.
"""
