from django.apps import AppConfig


class CustomersConfig(AppConfig):
    name = "apps.customers"

    def ready(self) -> None:
        from apps.customers.models import Asset, Customer, Site
        from foundation import files

        files.belong_to("customer", lambda key: Customer.objects.filter(pk=key).exists())
        files.belong_to("site", lambda key: Site.objects.filter(pk=key).exists())
        files.belong_to("asset", lambda key: Asset.objects.filter(pk=key).exists())
