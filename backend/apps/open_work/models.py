"""Tables of open work."""

from django.db import models


class OpenWorkFile(models.Model):
    """A file of open work, kept between its preview and its acceptance."""

    name = models.CharField(max_length=200)
    text = models.TextField()
    uploaded_at = models.DateTimeField()
    uploaded_by = models.ForeignKey("people.Account", on_delete=models.CASCADE)
    accepted_at = models.DateTimeField(null=True)
    made = models.PositiveIntegerField(default=0)
