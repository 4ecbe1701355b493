from django.apps import AppConfig


class PricingConfig(AppConfig):
    name = "apps.pricing"

    def ready(self) -> None:
        from apps.customers.models import Customer
        from apps.pricing.models import CustomerTerms, Price
        from foundation import merging

        merging.move_where_lacking(Customer, Price, "customer")
        merging.move_where_lacking(Customer, CustomerTerms, "customer")
