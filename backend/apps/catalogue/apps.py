from django.apps import AppConfig


class CatalogueConfig(AppConfig):
    name = "apps.catalogue"

    def ready(self) -> None:
        from apps.catalogue.models import JobType, JobTypeEdition
        from apps.catalogue.naming import CERTIFICATES, SKILLS
        from apps.people.models import CertificateKind, Skill
        from apps.stock.models import Part
        from foundation import merging
        from foundation.named import in_amounts, used

        used(Skill, SKILLS)
        used(CertificateKind, CERTIFICATES)
        used(Part, in_amounts("job types", JobType, "parts"))
        merging.stay(JobTypeEdition, "job_type", because="orders keep the edition they were made with")
        merging.stay(JobType, "merged_into", because="it says where the other one went")
