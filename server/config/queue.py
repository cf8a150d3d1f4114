"""The Celery application: a broker's messages wake workers, which find their work in the database."""

import os

from celery import Celery
from django.conf import settings

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

app = Celery("nubilis")
app.conf.update(
    broker_url=settings.BROKER or "memory://",
    task_ignore_result=True,
    task_acks_late=True,
    task_reject_on_worker_lost=True,
    worker_prefetch_multiplier=1,
    worker_hijack_root_logger=False,
    broker_connection_retry_on_startup=True,
    broker_connection_max_retries=None,
    broker_transport_options={
        "visibility_timeout": 3600,
        "socket_timeout": 10,
        "socket_connect_timeout": 5,
    },
    task_default_queue="nubilis",
    imports=["jobs.tasks"],
)
