"""Tables of people."""

from datetime import date
from functools import cached_property
from typing import Any, ClassVar

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models.functions import Lower

from core.roles import ALLOWED, EVERYWHERE, Action, Reach, Role, composed
from foundation.models import Versioned
from foundation.named import Named


class AccountManager(BaseUserManager["Account"]):
    """Makes accounts; the e-mail address is the name to sign in with."""

    def get_queryset(self) -> models.QuerySet["Account"]:
        # What they may do is asked of everybody who comes in.
        return super().get_queryset().select_related("own_role")

    def create_account(self, *, email: str, name: str, role: Role, password: str) -> "Account":
        account = self.model(email=self.normalize_email(email).lower(), name=name, role=role)
        account.set_password(password)
        account.save(using=self._db)
        return account


class OwnRole(Versioned):
    """A role the company has put together: what it may do, and in which areas and with whose technicians."""

    name = models.CharField(max_length=60)
    duty = models.CharField(max_length=120, blank=True)
    actions = models.JSONField(default=list)
    areas = models.ManyToManyField("company.Area", related_name="roles", blank=True)
    depots = models.ManyToManyField("company.Depot", related_name="roles", blank=True)

    class Meta:
        constraints: ClassVar = [models.UniqueConstraint(Lower("name"), name="own_role_has_its_name")]


class Account(AbstractBaseUser, Versioned):
    """Somebody who can sign in, with one role. Without a password: invited, and not come in yet."""

    email = models.EmailField(unique=True)
    name = models.CharField(max_length=120)
    role = models.CharField(max_length=20, choices=[(role.value, role.value) for role in Role])
    # With the role "own": which.
    own_role = models.ForeignKey(OwnRole, null=True, on_delete=models.PROTECT, related_name="accounts")
    is_active = models.BooleanField(default=True)

    USERNAME_FIELD = "email"
    REQUIRED_FIELDS: ClassVar[list[str]] = ["name"]
    objects: ClassVar[AccountManager] = AccountManager()

    @property
    def technician_id(self) -> int | None:
        technician: Any = getattr(self, "technician", None)
        return technician.pk if technician else None

    @property
    def role_name(self) -> str:
        """What the role is called."""
        return self.role if self.own_role is None else self.own_role.name

    @property
    def actions(self) -> frozenset[Action]:
        """What they may do."""
        if self.own_role is None:
            return ALLOWED.get(Role(self.role), frozenset())
        return composed(Action(action) for action in self.own_role.actions)

    @cached_property
    def reach(self) -> Reach:
        """How far what they may do reaches. Who works from the phone and sees no orders reaches their own visits."""
        if Action.SEE_ORDERS not in self.actions:
            return Reach(technician=self.technician_id or 0)
        if self.own_role is None:
            return EVERYWHERE
        return Reach(
            areas=frozenset(self.own_role.areas.values_list("pk", flat=True)),
            depots=frozenset(self.own_role.depots.values_list("pk", flat=True)),
        )


class Skill(Named):
    """What somebody can do, at a level of 1 to 5."""

    class Meta(Named.Meta):
        verbose_name = "skill"


class Vehicle(Named):
    """What technicians drive. Its plate, its depot, when it is due for inspection, and what a kilometre costs."""

    plate = models.CharField(max_length=20, blank=True)
    depot = models.ForeignKey("company.Depot", null=True, on_delete=models.PROTECT, related_name="vehicles")
    inspection_due = models.DateField(null=True)
    cost_per_km = models.DecimalField(max_digits=8, decimal_places=2, null=True)

    class Meta(Named.Meta):
        verbose_name = "vehicle"


class Technician(Versioned):
    """Somebody who does visits. The day begins and ends at the depot, or at home."""

    account = models.OneToOneField(Account, null=True, on_delete=models.SET_NULL, related_name="technician")
    name = models.CharField(max_length=120)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    depot = models.ForeignKey("company.Depot", on_delete=models.PROTECT, related_name="technicians")
    areas = models.ManyToManyField("company.Area", related_name="technicians", blank=True)
    portrait = models.TextField(blank=True)  # an SVG drawing
    # Days outside these have no shift; both count, none: since ever, and for good.
    employed_from = models.DateField(null=True)
    employed_until = models.DateField(null=True)
    home_address = models.CharField(max_length=300, blank=True)
    home_lon = models.FloatField(null=True)
    home_lat = models.FloatField(null=True)
    starts_at_home = models.BooleanField(default=False)
    ends_at_home = models.BooleanField(default=False)
    vehicle = models.ForeignKey(Vehicle, null=True, on_delete=models.PROTECT, related_name="drivers")
    cost_per_hour = models.DecimalField(max_digits=8, decimal_places=2, null=True)
    # Days of holiday a year; none: nobody counts them.
    holiday_days = models.PositiveSmallIntegerField(null=True)
    # The calendar's secret link names its edition: renewed, the old link is dead. Closed, there is none.
    calendar_edition = models.PositiveIntegerField(default=1)
    calendar_open = models.BooleanField(default=True)


class FormerEnds(models.Model):
    """Where somebody's days began and ended before a day: kept when that changes, so that no day before it does.

    Of several the one that ends first after a day holds on it; on days after all of them the technician's own."""

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="former_ends")
    until = models.DateField()  # the first day on which it is so no more
    depot = models.CharField(max_length=60)
    start_lon = models.FloatField()
    start_lat = models.FloatField()
    end_lon = models.FloatField()
    end_lat = models.FloatField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["technician", "until"], name="one_former_end_a_day"),
        ]


class Photo(models.Model):
    """A technician's own photo, as a JPEG that we wrote ourselves."""

    technician = models.OneToOneField(Technician, on_delete=models.CASCADE, related_name="photo")
    content = models.BinaryField()


class TechnicianSkill(models.Model):
    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="skills")
    skill = models.ForeignKey(Skill, on_delete=models.PROTECT)
    level = models.PositiveSmallIntegerField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(fields=["technician", "skill"], name="one_level_per_skill"),
            models.CheckConstraint(condition=models.Q(level__gte=1, level__lte=5), name="level_1_to_5"),
        ]


class TechnicianWish(models.Model):
    """A kind of work, known by a skill it needs, or an area that somebody likes or would rather not have."""

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="wishes")
    skill = models.ForeignKey(Skill, null=True, on_delete=models.CASCADE)
    area = models.ForeignKey("company.Area", null=True, on_delete=models.CASCADE)
    likes = models.BooleanField()

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["technician", "skill", "area"], nulls_distinct=False, name="one_wish_about_it"
            ),
            models.CheckConstraint(
                condition=models.Q(skill__isnull=True, area__isnull=False)
                | models.Q(skill__isnull=False, area__isnull=True),
                name="wish_about_one_thing",
            ),
        ]


# A shift that always was.
ALWAYS = date(2000, 1, 1)


class WeeklyShiftRow(models.Model):
    """Working time on one weekday, as wall-clock times of the company's time zone.

    It holds from a day on and until before another one: other hours from a day on never change the days before.
    Of several weeks in turn it is in one; the first is the week in which `valid_from` lies. After the end somebody may
    be on call until a time; a day on call only has the same time as start and end.
    """

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="shifts")
    weekday = models.PositiveSmallIntegerField()
    start = models.TimeField()
    end = models.TimeField()
    rest_earliest = models.TimeField(null=True)
    rest_latest = models.TimeField(null=True)
    rest_minutes = models.PositiveSmallIntegerField(default=0)
    overtime_minutes = models.PositiveSmallIntegerField(default=0)
    # A split shift is one shift with a gap in which nobody works.
    gap_start = models.TimeField(null=True)
    gap_end = models.TimeField(null=True)
    on_call_until = models.TimeField(null=True)
    week = models.PositiveSmallIntegerField(default=0)
    weeks = models.PositiveSmallIntegerField(default=1)
    valid_from = models.DateField(default=ALWAYS)
    valid_until = models.DateField(null=True)

    class Meta:
        constraints: ClassVar = [
            models.UniqueConstraint(
                fields=["technician", "weekday", "week", "valid_from"], name="one_shift_per_weekday"
            ),
            models.CheckConstraint(condition=models.Q(week__lt=models.F("weeks")), name="week_of_its_weeks"),
            models.CheckConstraint(
                condition=models.Q(valid_until__isnull=True) | models.Q(valid_until__gt=models.F("valid_from")),
                name="shift_valid_for_a_day",
            ),
            models.CheckConstraint(
                condition=models.Q(gap_start__isnull=True, gap_end__isnull=True)
                | models.Q(gap_start__isnull=False, gap_end__isnull=False),
                name="gap_of_a_shift_whole",
            ),
        ]


class Absence(models.Model):
    """`kind` is empty where nobody said; holidays count against the allowance of their year."""

    KINDS: ClassVar = [(word, word) for word in ("holiday", "sickness", "training", "other")]

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="absences")
    start = models.DateTimeField()
    end = models.DateTimeField()
    reason = models.CharField(max_length=120, blank=True)
    kind = models.CharField(max_length=10, choices=KINDS, blank=True)


class DaysAsked(models.Model):
    """Whole days off that a technician asked for, and what was answered. Granted, they are an absence."""

    STATES: ClassVar = [(word, word) for word in ("asked", "granted", "declined", "withdrawn")]

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="days_asked")
    first_day = models.DateField()
    last_day = models.DateField()
    kind = models.CharField(max_length=10, choices=Absence.KINDS)
    words = models.CharField(max_length=300, blank=True)
    state = models.CharField(max_length=10, choices=STATES, default="asked")
    asked_at = models.DateTimeField()
    answered_at = models.DateTimeField(null=True)
    answered_by = models.CharField(max_length=120, blank=True)
    answer = models.CharField(max_length=300, blank=True)
    absence = models.OneToOneField(Absence, null=True, on_delete=models.SET_NULL, related_name="asked")

    class Meta:
        constraints: ClassVar = [
            models.CheckConstraint(condition=models.Q(last_day__gte=models.F("first_day")), name="days_asked_in_order")
        ]


class CertificateKind(Named):
    """A paper that the law or a customer asks for."""

    class Meta(Named.Meta):
        verbose_name = "certificate"


class Certificate(models.Model):
    """A paper that says what somebody may do, and until when; no end: for good."""

    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="certificates")
    kind = models.ForeignKey(CertificateKind, on_delete=models.PROTECT, related_name="held")
    number = models.CharField(max_length=40, blank=True)
    valid_until = models.DateField(null=True)
    # The paper itself, as a picture or a PDF.
    file = models.ForeignKey("foundation.StoredFile", null=True, on_delete=models.SET_NULL, related_name="+")


class Crew(Versioned):
    """Technicians who go together as a rule."""

    name = models.CharField(max_length=60, unique=True)


class CrewMember(models.Model):
    """One of a crew; the first one leads it."""

    crew = models.ForeignKey(Crew, on_delete=models.CASCADE, related_name="places")
    technician = models.ForeignKey(Technician, on_delete=models.CASCADE, related_name="crew_places")
    position = models.PositiveSmallIntegerField()

    class Meta:
        ordering: ClassVar = ["position"]
        constraints: ClassVar = [models.UniqueConstraint(fields=["crew", "technician"], name="once_in_a_crew")]
