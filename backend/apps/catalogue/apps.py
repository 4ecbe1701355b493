from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "apps.catalogue"

    def ready(self) -> None:
        from apps.catalogue.models import JobType, JobTypeEdition
        from apps.catalogue.naming import CERTIFICATES, SKILLS
        from apps.people.models import CertificateKind, Skill
        from foundation import merging
        from foundation.named import used

        used(Skill, SKILLS)
        used(CertificateKind, CERTIFICATES)
        merging.stay(JobTypeEdition, "job_type", because="orders keep the edition they were made with")
        merging.stay(JobType, "merged_into", because="it says where the other one went")
