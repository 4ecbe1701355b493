"""The way out. A real push, text or e-mail service takes the place of the simulated one."""

from typing import Protocol

# A number that ends like this is out of service: what cannot be delivered can be seen in a demo.
OUT_OF_SERVICE = "000 000"


class Undeliverable(Exception):
    """The message cannot reach anybody; the text says why."""


class Gateway(Protocol):
    """Hands a message to the outside."""

    def send(self, *, key: str, channel: str, address: str, text: str) -> str:
        """Deliver, and give the service's reference. The same key again is the same message: it is not sent twice.

        Raises
        ------
        Undeliverable
            When it will not get there however often it is tried. Any other error: it may at another time.
        """
        ...


class SimulatedGateway:
    """Delivers into the outbox page only. Nothing leaves the machine."""

    def send(self, *, key: str, channel: str, address: str, text: str) -> str:  # noqa: ARG002 - the interface
        if not address:
            raise Undeliverable("There is no address to send to.")
        if channel == "text" and address.endswith(OUT_OF_SERVICE):
            raise Undeliverable(f"The number {address} is out of service.")
        return f"sim-{key[:10]}"


def gateway() -> Gateway:
    return SimulatedGateway()
