from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "apps.catalogue"

    def ready(self) -> None:
        from apps.catalogue.naming import CERTIFICATES, SKILLS
        from apps.people.models import CertificateKind, Skill
        from foundation.named import used

        used(Skill, SKILLS)
        used(CertificateKind, CERTIFICATES)
