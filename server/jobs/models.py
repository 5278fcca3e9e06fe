"""Jobs and their facts. Facts are added, never overwritten; what is in force is derived."""

from django.contrib.postgres.indexes import GinIndex, OpClass
from django.contrib.postgres.search import SearchVectorField
from django.db import models
from django.db.models import F, Func, Value

from files.models import Picture, Recording
from machines.models import Machine
from people.models import Person, WorkshopRow


class Job(WorkshopRow):
    """One call to one machine.

    carried: parts of a job file that are kept as they came (air, vent, load, notes and keys that begin with x-).
    """

    machine = models.ForeignKey(Machine, on_delete=models.PROTECT, related_name="jobs")
    title = models.CharField(max_length=200, blank=True)
    complaints = models.JSONField(default=list)
    circumstances = models.JSONField(default=list)
    #: By complaint: since when, how often, what it does.
    told = models.JSONField(default=dict)
    said = models.TextField(blank=True)
    booked_for = models.DateTimeField()
    carried = models.JSONField(default=dict, db_column="given")
    #: Counts every write: what a client based its own on.
    version = models.PositiveIntegerField(default=1)
    created_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    #: Handed over: nothing of it changes until it is opened again for a new edition of its record.
    shut = models.BooleanField(default=False, db_default=False)
    #: Editions of its record there are.
    editions = models.PositiveSmallIntegerField(default=0, db_default=0)

    class Meta:
        indexes = [
            models.Index(fields=["workshop", "shut", "booked_for", "id"], name="jobs_of_a_list"),
        ]


class Fact(WorkshopRow):
    """Something recorded on a job: who, when it happened, when it arrived.

    seq: the server's own order, given under the job's lock. What is in force is decided by it; a phone's clock (at) may
    be an hour wrong and is only shown.
    """

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="%(class)ss")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)
    seq = models.BigIntegerField(db_default=Func(Value("jobs_fact_seq"), function="nextval"), editable=False)
    #: Brought in by a file: who brought it is not who did it; and who the file says did, where that is nobody here.
    from_file = models.BooleanField(default=False, db_default=False)
    by_name = models.CharField(max_length=120, blank=True, default="", db_default="")

    class Meta:
        abstract = True
        ordering = ["seq"]


class Observation(Fact):
    """A reading or a finding: before or after the work, heat on or off, perhaps in place of an earlier one."""

    phase = models.CharField(max_length=8, choices=[("before", "before"), ("after", "after")])
    heat_on = models.BooleanField(default=False)
    visit = models.UUIDField(null=True)
    supersedes = models.OneToOneField("self", null=True, on_delete=models.PROTECT, related_name="superseded_by")
    withdrawn = models.BooleanField(default=False)

    class Meta(Fact.Meta):
        abstract = True


class Reading(Observation):
    """A number from an instrument, kept as it was typed."""

    kind = models.CharField(max_length=40)
    typed = models.CharField(max_length=60, blank=True)
    value = models.FloatField()
    unit = models.CharField(max_length=12)
    instrument = models.CharField(max_length=40, blank=True)

    class Meta(Observation.Meta):
        constraints = [
            models.CheckConstraint(condition=models.Q(phase__in=["before", "after"]), name="reading_phase_is_known"),
        ]


class Finding(Observation):
    """What a look, a touch or a listen gave; why: where it could not be done."""

    check_name = models.CharField(max_length=40)
    result = models.CharField(max_length=40)
    why = models.CharField(max_length=200, blank=True)

    class Meta(Observation.Meta):
        constraints = [
            models.CheckConstraint(condition=models.Q(phase__in=["before", "after"]), name="finding_phase_is_known"),
        ]


class MeterTest(Observation):
    """What a meter showed of an electrical part; test: the file's own part, without the keys that rows hold."""

    part = models.CharField(max_length=40)
    typed = models.CharField(max_length=60, blank=True)
    test = models.JSONField()

    class Meta(Observation.Meta):
        constraints = [
            models.CheckConstraint(condition=models.Q(phase__in=["before", "after"]), name="meter_phase_is_known"),
        ]


class Log(Observation):
    """A reading over a run, from an instrument that records or from a file."""

    kind = models.CharField(max_length=40)
    unit = models.CharField(max_length=12)
    minutes = models.JSONField()
    values = models.JSONField()
    instrument = models.CharField(max_length=40, blank=True)

    class Meta(Observation.Meta):
        constraints = [
            models.CheckConstraint(condition=models.Q(phase__in=["before", "after"]), name="log_phase_is_known"),
        ]


class Sound(Observation):
    """A recording of the running machine, and what it told.

    part: where it was held, as it was said; healthy: it is of a machine of the kind that runs well. told: as in a file
    (verdict, scores, stands, rates, seconds, clipped), null until somebody has listened to it; trouble: why nothing can
    be heard in it. recording: null where only what it told was brought in.
    """

    recording = models.ForeignKey(Recording, null=True, on_delete=models.PROTECT, related_name="+")
    part = models.CharField(max_length=80, blank=True)
    healthy = models.BooleanField(default=False, db_default=False)
    told = models.JSONField(null=True)
    trouble = models.CharField(max_length=300, blank=True, default="", db_default="")

    class Meta(Observation.Meta):
        constraints = [
            models.CheckConstraint(condition=models.Q(phase__in=["before", "after"]), name="sound_phase_is_known"),
        ]
        indexes = [models.Index("workshop", condition=models.Q(healthy=True), name="sounds_of_healthy_machines")]


#: What is read, seen or heard, of whatever kind.
AnyObservation = Reading | Finding | MeterTest | Log | Sound


class Work(Fact):
    """A plain order: an act on a part, whatever the cause."""

    part = models.CharField(max_length=40)
    act = models.CharField(max_length=10)
    why = models.CharField(max_length=200, blank=True)
    withdrawn = models.BooleanField(default=False)


class AddedStep(Fact):
    """An operation that stands in no layout, as somebody met it: as in `warm-draft/layout`; after: the one it came off
    after."""

    operation = models.JSONField()
    after = models.CharField(max_length=80, blank=True)
    withdrawn = models.BooleanField(default=False)


class Mark(Fact):
    """A step done, undone, or not possible here; a line of works taken, declined or not needed. The latest mark of a
    step, or of a line, is in force."""

    step = models.CharField(max_length=80)
    state = models.CharField(max_length=14)
    why = models.CharField(max_length=200, blank=True)

    class Meta(Fact.Meta):
        constraints = [
            models.CheckConstraint(
                condition=models.Q(
                    state__in=["done", "undone", "not_possible", "not_there", "taken", "declined", "not_needed"]
                ),
                name="mark_state_is_known",
            ),
        ]


class Count(Fact):
    """Something counted or said at the bench: fasteners, a wire, a part, the tools. The latest of a state counts."""

    step = models.CharField(max_length=80, blank=True)
    what = models.CharField(max_length=10)
    key = models.CharField(max_length=200)
    state = models.CharField(max_length=12)
    count = models.PositiveSmallIntegerField(default=1)
    note = models.CharField(max_length=300, blank=True)


class WayChoice(Fact):
    """What is wanted of the way in: what to keep out or in. The latest counts.

    also: parts taken along, as clients of earlier releases say it; null says nothing of that.
    """

    also = models.JSONField(null=True)
    avoid = models.JSONField(default=list)
    through = models.JSONField(default=list)


class Photo(Fact):
    """A photo of this job: of a step, or of the machine at large."""

    picture = models.ForeignKey(Picture, on_delete=models.PROTECT, related_name="+")
    step = models.CharField(max_length=80, blank=True)
    withdrawn = models.BooleanField(default=False)
    #: Since when: after a day the sweep takes row and picture.
    withdrawn_at = models.DateTimeField(null=True)
    #: It stands on a record that was handed over: the sweep leaves it.
    kept = models.BooleanField(default=False, db_default=False)


class PhotoNote(Fact):
    """What was said of a photo: whether the customer's record shows it, and where on it each wire is.

    The latest of a photo holds. wires: [{"key": a wire of the photo's step, "x", "y": shares of its width and height}].
    """

    photo = models.ForeignKey(Photo, on_delete=models.CASCADE, related_name="notes")
    on_record = models.BooleanField(default=False)
    wires = models.JSONField(default=list)


class Cause(Fact):
    """A cause the work goes by (working), what someone thinks it was (proposed), or what it was (confirmed).

    The latest of a kind counts.
    """

    kind = models.CharField(max_length=10)
    fault = models.CharField(max_length=40)
    severity = models.FloatField(null=True)
    #: A one-shot part has blown, and this cause does not say why: so it stands on the record.
    heat_unexplained = models.BooleanField(default=False)

    class Meta(Fact.Meta):
        constraints = [
            models.CheckConstraint(
                condition=models.Q(kind__in=["working", "proposed", "confirmed"]), name="cause_kind_is_known"
            ),
        ]


class Dealing(Fact):
    """What is dealt with beside the machine's air: an old part by its marks, what became of a part, what was agreed,
    what was found where it was cleaned.

    document: the file's own part, without the keys that rows hold; key: the number of a part as it is compared.
    """

    key = models.CharField(max_length=60, blank=True, default="", db_default="")
    what = models.CharField(max_length=10)
    document = models.JSONField()
    withdrawn = models.BooleanField(default=False)

    class Meta(Fact.Meta):
        constraints = [
            models.CheckConstraint(
                condition=models.Q(what__in=["old_part", "part", "agreement", "lint"]), name="dealing_is_known"
            ),
        ]
        indexes = [models.Index("workshop", "key", condition=~models.Q(key=""), name="parts_of_a_number")]


class Happening(models.Model):
    """The log: appended in the transaction of the act itself, never changed. History and audit in one."""

    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    job = models.ForeignKey(Job, null=True, on_delete=models.CASCADE, related_name="happenings")
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    what = models.CharField(max_length=40)
    at = models.DateTimeField()
    received_at = models.DateTimeField(auto_now_add=True)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)
    #: The job's version with it; and the device it came from, where the client says.
    version = models.PositiveIntegerField(null=True)
    device = models.UUIDField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [
            models.Index(fields=["job", "version"], name="happenings_since"),
            models.Index(fields=["workshop", "by", "id"], name="happenings_of_a_person"),
        ]


class Presence(models.Model):
    """Who has a job open on which device, and when they last showed it."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(Person, on_delete=models.CASCADE, related_name="+")
    device = models.UUIDField(null=True)
    seen_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["job", "seen_at"], name="who_is_here")]


class Summary(models.Model):
    """What a list says of a job: worked out by the write that changed it, never while a list is asked for.

    made_of: model and words it was worked out with; what was made of older ones is brought up to date by the worker.
    trouble: why the job cannot be shown, where that is so: the list says it and goes on.
    """

    job = models.OneToOneField(Job, primary_key=True, on_delete=models.CASCADE, related_name="summary")
    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    version = models.PositiveIntegerField()
    #: As of the job: what is found is put in order without asking for the jobs.
    booked_for = models.DateTimeField()
    stage = models.CharField(max_length=20)
    stage_number = models.PositiveSmallIntegerField()
    next = models.CharField(max_length=200)
    headline = models.CharField(max_length=300)
    trouble = models.CharField(max_length=200, blank=True)
    last_by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    made_of = models.CharField(max_length=40)
    search = SearchVectorField()

    class Meta:
        indexes = [
            models.Index(fields=["made_of"], name="summaries_to_renew"),
            models.Index(fields=["workshop", "booked_for", "job"], name="summaries_latest_first"),
            GinIndex(F("workshop"), F("search"), name="jobs_found_by_words"),
        ]


class Word(models.Model):
    """A word that stands in some job of a workshop: what a mistyped one is likened to."""

    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    word = models.CharField(max_length=40)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["workshop", "word"], name="a_word_stands_once")]
        indexes = [GinIndex(F("workshop"), OpClass(F("word"), name="gin_trgm_ops"), name="words_alike")]


class Lesson(models.Model):
    """What a job that was handed over teaches of its machine's layout, as it was then: it never changes afterwards.

    minutes: by step; counts: [step, fastener, number]. The latest of a job counts.
    """

    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    layout = models.CharField(max_length=60)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="+")
    machine = models.ForeignKey(Machine, on_delete=models.CASCADE, related_name="+")
    minutes = models.JSONField()
    counts = models.JSONField()

    class Meta:
        indexes = [models.Index(fields=["workshop", "layout", "id"], name="lessons_of_a_layout")]


class Found(models.Model):
    """What a job that was handed over counts and what its verdict had said of it, as of its latest edition.

    counts: a `warm-draft/counts`; said: see jobs.answer.taught; left_out: a lead had it count for nothing.
    """

    job = models.OneToOneField(Job, primary_key=True, on_delete=models.CASCADE, related_name="found")
    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    at = models.DateTimeField()
    fault = models.CharField(max_length=40, blank=True)
    counts = models.JSONField()
    said = models.JSONField()
    left_out = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["workshop", "-at"], name="found_latest_first")]


class CountsGiven(models.Model):
    """Counts of another workshop that this one learns from: no people, no places, no days."""

    id = models.UUIDField(primary_key=True)
    workshop = models.ForeignKey("people.Workshop", on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=120)
    counts = models.JSONField()
    by = models.ForeignKey(Person, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)


class Taught(models.Model):
    """What all jobs of a workshop count together: derived by the worker, kept so that no verdict waits for the sum.

    on: whether verdicts go by it; as_of: counts its changes.
    """

    workshop = models.OneToOneField("people.Workshop", primary_key=True, on_delete=models.CASCADE, related_name="+")
    on = models.BooleanField(default=True)
    as_of = models.PositiveIntegerField(default=0)
    counts = models.JSONField(null=True)
