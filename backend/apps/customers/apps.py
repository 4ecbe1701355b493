from django.apps import AppConfig


class CustomersConfig(AppConfig):
    name = "apps.customers"

    def ready(self) -> None:
        from apps.company import answers
        from apps.company.models import Tag
        from apps.customers.models import Asset, Contact, Customer, Findable, Merge, Site
        from foundation import files, merging
        from foundation.named import in_list, used

        files.belong_to("customer", lambda key: Customer.objects.filter(pk=key).exists())
        files.belong_to("site", lambda key: Site.objects.filter(pk=key).exists())
        files.belong_to("asset", lambda key: Asset.objects.filter(pk=key).exists())
        used(Tag, in_list("customers", Customer, "tags"))
        answers.hold("customer", answers.in_column("customers", Customer))
        answers.hold("site", answers.in_column("sites", Site))
        answers.hold("asset", answers.in_column("assets", Asset))
        merging.move_along(Customer, Customer, "payer")
        merging.move_along(Customer, Contact, "customer")
        merging.move_along(Customer, Site, "customer")
        merging.stay(Customer, "merged_into", because="it says where the other one went")
        merging.stay(Findable, "customer", because="it is made anew from the two records")
        merging.stay(Merge, "kept", "gone", because="it is the history of merging")
