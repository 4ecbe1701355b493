from django.apps import AppConfig


class PeopleConfig(AppConfig):
    name = "apps.people"

    def ready(self) -> None:
        from apps.company.events import DepotMoves
        from apps.people import commands
        from apps.people.models import CertificateKind, Skill, Technician, Vehicle
        from apps.people.naming import OF_CERTIFICATES, OF_SKILLS, OF_VEHICLES, OF_WISHES
        from foundation import events, files, undo
        from foundation.named import used

        used(Skill, OF_SKILLS, OF_WISHES)
        used(Vehicle, OF_VEHICLES)
        used(CertificateKind, OF_CERTIFICATES)

        files.belong_to("technician", lambda key: Technician.objects.filter(pk=key).exists())
        undo.register("absence", by_values=commands.put_absence_back)
        undo.register("crew", by_values=commands.put_crew_back)
        events.listen(DepotMoves, commands.keep_before_a_move)
