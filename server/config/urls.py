"""The API under /api; every other address is a page that the browser draws."""

from django.urls import path, re_path

from config.api import api
from config.health import live, metrics, ready
from config.pages import page

urlpatterns = [
    path("api/", api.urls),
    path("health", live),
    path("health/live", live),
    path("health/ready", ready),
    path("metrics", metrics),
    re_path(r"^(?!api/|assets/).*$", page),
]
handler500 = "config.database.unforeseen"
