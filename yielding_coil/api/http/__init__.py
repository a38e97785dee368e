"""What every route needs: sessions, refusals as answers, numbers, files and jobs, the guard at the door."""

from yielding_coil.api.http.caller import (
    COOKIE,
    SECURE_COOKIE,
    Asking,
    Caller,
    Owner,
    OwnerOnlyError,
    Reach,
)
from yielding_coil.api.http.downloads import disposition, download
from yielding_coil.api.http.findings import (
    AcquisitionFinding,
    BenchFinding,
    CalibrationFinding,
    DesignFinding,
    EvidenceFinding,
    StopFinding,
    TrimFinding,
    WindingFinding,
)
from yielding_coil.api.http.guard import Guard
from yielding_coil.api.http.jobs import ACTIVE, AnyJob, JobOut, Jobs, Plan, ProgressSink
from yielding_coil.api.http.numbers import Figure, Frequencies, Numbers, number, numbers, rows_of_numbers
from yielding_coil.api.http.pair_page import AUTHORITY_PATH, guessed_name, local_path, pair_link, pair_page
from yielding_coil.api.http.problems import RESPONSES, Problem, problem_of
from yielding_coil.api.http.problems import install as install_problems
from yielding_coil.api.http.queued import QueuedJobs, TableSink
from yielding_coil.api.http.relay import Inside, Relay
from yielding_coil.api.http.routes import InTransaction, router_of
from yielding_coil.api.http.telling import Telling, tell_in_lines
from yielding_coil.api.http.uploads import BYTES_BODY, body_up_to

__all__ = [
    "ACTIVE",
    "AUTHORITY_PATH",
    "BYTES_BODY",
    "COOKIE",
    "RESPONSES",
    "SECURE_COOKIE",
    "AcquisitionFinding",
    "AnyJob",
    "Asking",
    "BenchFinding",
    "CalibrationFinding",
    "Caller",
    "DesignFinding",
    "EvidenceFinding",
    "Figure",
    "Frequencies",
    "Guard",
    "InTransaction",
    "Inside",
    "JobOut",
    "Jobs",
    "Numbers",
    "Owner",
    "OwnerOnlyError",
    "Plan",
    "Problem",
    "ProgressSink",
    "QueuedJobs",
    "Reach",
    "Relay",
    "StopFinding",
    "TableSink",
    "Telling",
    "TrimFinding",
    "WindingFinding",
    "body_up_to",
    "disposition",
    "download",
    "guessed_name",
    "install_problems",
    "local_path",
    "number",
    "numbers",
    "pair_link",
    "pair_page",
    "problem_of",
    "router_of",
    "rows_of_numbers",
    "tell_in_lines",
]
