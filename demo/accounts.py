"""The sign-ins of the demo, printed at the start and offered on the sign-in page."""

from dataclasses import dataclass

PASSWORD = "varnholm-harbour"


@dataclass(frozen=True)
class SignInAs:
    email: str
    name: str
    role: str


SIGN_INS = (
    SignInAs("dora.quill@hallamreyne.example", "Dora Quill", "dispatcher"),
    SignInAs("milo.tarn@hallamreyne.example", "Milo Tarn", "dispatcher"),
    SignInAs("ines.falk@hallamreyne.example", "Ines Falk", "technician"),
    SignInAs("ivo.brandt@hallamreyne.example", "Ivo Brandt", "intake"),
    SignInAs("greta.hallam@hallamreyne.example", "Greta Hallam", "manager"),
    SignInAs("remy.stroud@hallamreyne.example", "Remy Stroud", "reviewer"),
    SignInAs("ada.reyne@hallamreyne.example", "Ada Reyne", "administrator"),
)

# By which the simulated lift monitors are known. No secret: it is only made in a demo.
DEVICE_TOKEN = "demo-lift-monitors"
