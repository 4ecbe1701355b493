from django.apps import AppConfig


class QuotesConfig(AppConfig):
    name = "apps.quotes"

    def ready(self) -> None:
        from apps.catalogue.models import JobType
        from apps.customers.models import Customer
        from apps.quotes.models import Quote
        from foundation import files, merging

        files.belong_to("quote", lambda key: Quote.objects.filter(pk=key).exists())
        merging.move_along(Customer, Quote, "customer")
        merging.move_along(JobType, Quote, "job_type")
