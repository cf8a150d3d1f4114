"""The API under /api; every other address is a page that the browser draws."""

from django.urls import path, re_path

from config.api import api
from config.pages import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|assets/).*$", page)]
