"""Addresses of the stand-in."""

from django.urls import path

from demo.directory import views

urlpatterns = [
    path(".well-known/openid-configuration", views.configuration),
    path("authorize", views.authorize),
    path("token", views.token),
    path("who", views.who),
    path("keys", views.keys),
]
