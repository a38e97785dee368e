"""What every route needs: sessions, refusals as answers, numbers, files and jobs, the guard at the door."""

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
from yielding_coil.api.http.problems import RESPONSES, Problem, problem_of
from yielding_coil.api.http.problems import install as install_problems
from yielding_coil.api.http.routes import InTransaction, router_of
from yielding_coil.api.http.uploads import BYTES_BODY, body_up_to

__all__ = [
    "ACTIVE",
    "BYTES_BODY",
    "RESPONSES",
    "AcquisitionFinding",
    "AnyJob",
    "BenchFinding",
    "CalibrationFinding",
    "DesignFinding",
    "EvidenceFinding",
    "Figure",
    "Frequencies",
    "Guard",
    "InTransaction",
    "JobOut",
    "Jobs",
    "Numbers",
    "Plan",
    "Problem",
    "ProgressSink",
    "StopFinding",
    "TrimFinding",
    "WindingFinding",
    "body_up_to",
    "disposition",
    "download",
    "install_problems",
    "number",
    "numbers",
    "problem_of",
    "router_of",
    "rows_of_numbers",
]
