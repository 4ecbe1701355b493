from django.apps import AppConfig


class PricingConfig(AppConfig):
    name = "apps.pricing"

    def ready(self) -> None:
        from apps.pricing.models import CustomerTerms, Price
        from foundation import merging

        merging.stay(Price, "customer", because="each customer was told prices of its own")
        merging.stay(CustomerTerms, "customer", because="the customer that is kept keeps its own terms")
