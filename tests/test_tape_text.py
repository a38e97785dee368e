"""Every length shown can be measured with a tape and typed back: the page's own writing, read by the core."""

import json
import shutil
import subprocess
from pathlib import Path

import numpy as np
import pytest

from yielding_coil.core.quantity import parse
from yielding_coil.core.wire import STEP_M, on_tape

WEB = Path(__file__).parents[1] / "web"
FORMAT = WEB / "src" / "lib" / "units" / "format.ts"
# Runs the page's own function, its types taken off, over lengths from standard input.
RUN = """
const ts = require('typescript');
const source = require('fs').readFileSync(process.argv[1], 'utf8');
const module_ = { exports: {} };
const plain = ts.transpileModule(source, { compilerOptions: { module: 'commonjs' } }).outputText;
new Function('module', 'exports', plain)(module_, module_.exports);
const asked = JSON.parse(require('fs').readFileSync(0, 'utf8'));
console.log(JSON.stringify(asked.map(([m, unit]) => module_.exports.length(m, unit))));
"""


def written(asked):
    node = shutil.which("node") or str(WEB.parent / ".venv" / "node" / "node")
    ran = subprocess.run(
        [node, "-e", RUN, str(FORMAT)], input=json.dumps(asked), capture_output=True, text=True, check=True, cwd=WEB
    )
    return json.loads(ran.stdout)


@pytest.mark.parametrize("unit", ["m", "ft"])
@pytest.mark.deep
def test_what_is_shown_is_a_mark_of_the_tape_and_reads_back(unit):
    """4,000 lengths from 1 mm to 200 m, drawn evenly over their logarithm (seed 20261128), and every edge."""
    rng = np.random.default_rng(20261128)
    lengths = [*np.exp(rng.uniform(np.log(1e-3), np.log(200), 4000)), 0.0999, 0.1, 1.9996, 2.0, 0.3048, 0.30478]
    texts = written([[float(m), unit] for m in lengths])

    for metres, text in zip(lengths, texts, strict=True):
        back = parse(text, "length", unit) if text not in ('0"', "0 mm") else 0.0
        assert back == pytest.approx(on_tape(metres, unit), abs=1e-9), (metres, text)
        assert abs(back - metres) <= STEP_M[unit] / 2 + 1e-9


@pytest.mark.parametrize("unit", ["m", "ft"])
def test_marks_of_a_tape_come_back_as_they_were(unit):
    """What is advised lies on a mark: typed back from the page it is the same length."""
    marks = [float(f"{n * STEP_M[unit]:.12g}") for n in range(1, 3000, 7)]
    for mark, text in zip(marks, written([[m, unit] for m in marks]), strict=True):
        assert parse(text, "length", unit) == pytest.approx(mark, abs=1e-9), text
