from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "apps.catalogue"

    def ready(self) -> None:
        from apps.catalogue.naming import CERTIFICATES, PARTS, SKILLS
        from apps.people.models import CertificateKind, Skill
        from apps.stock.models import Part
        from foundation.named import used

        used(Skill, SKILLS)
        used(CertificateKind, CERTIFICATES)
        used(Part, PARTS)
