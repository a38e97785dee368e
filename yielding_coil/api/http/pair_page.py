"""The form that pairs a device: a page by itself, without scripts, for whoever has nothing else yet."""

import base64
import hashlib
from html import escape
from urllib.parse import urlencode

from starlette.responses import HTMLResponse

PATH = "/pair"
AUTHORITY_PATH = "/pair/authority.crt"

_STYLE = """
:root{--paper:#fffcf3;--ink:#1a1a16;--soft:#4f4b40;--edge:#6b6555;--copper:#8f3d16;--enamel:#a3291f;
color-scheme:light}
*{box-sizing:border-box}
body{margin:0;background:var(--paper);color:var(--ink);font:18px/1.45 system-ui,sans-serif}
main,form,label{display:grid;grid-template-columns:minmax(0,1fr)}
main{max-width:26rem;margin:0 auto;padding:1.5rem 1.25rem;gap:1rem}
h1{font-size:1.5rem;margin:0}
p{margin:0}
.tape{height:20px;background:repeating-linear-gradient(90deg,#f3c93c 0 46px,#1a1a16 46px 48px);
border-bottom:2px solid var(--ink)}
form{gap:1rem}
label{gap:.3rem;font-weight:600}
a{color:var(--copper)}
input{font:inherit;min-height:56px;padding:.4rem .8rem;border:2px solid var(--edge);border-radius:8px;
background:#fff;color:inherit;width:100%}
#code{font-size:1.6rem;letter-spacing:.12em;text-transform:uppercase}
button{font:inherit;font-weight:700;min-height:72px;border:2px solid var(--ink);border-radius:8px;
background:var(--ink);color:var(--paper)}
:focus-visible{outline:3px solid var(--copper);outline-offset:2px}
.why{border-left:4px solid var(--enamel);padding:.4rem .8rem;font-weight:600}
.soft{color:var(--soft);font-size:1rem}
"""
_DIGEST = base64.b64encode(hashlib.sha256(_STYLE.encode()).digest()).decode()
POLICY = (
    f"default-src 'none'; style-src 'sha256-{_DIGEST}'; img-src 'self'; form-action 'self'; "
    "base-uri 'none'; frame-ancestors 'none'"
)


def local_path(text: str) -> str:
    """Where to go when paired: a place in this application; the shelf where it is anything else."""
    plain = text.isascii() and text.isprintable() and len(text) <= 200 and "\\" not in text
    return text if plain and text.startswith("/") and not text.startswith("//") else "/"


def pair_link(address: str, code: str, to: str) -> str:
    """What a camera reads: the form with the code in it."""
    return f"{address}{PATH}?{urlencode({'code': code, **({'to': to} if to != '/' else {})})}"


def pair_page(
    status: int = 200,
    *,
    code: str = "",
    name: str = "",
    to: str = "/",
    why: str = "",
    trust: bool = False,
    headers: dict[str, str] | None = None,
) -> HTMLResponse:
    """The form; `why` says what was wrong with the last try, `trust` offers the authority's certificate."""
    said = f'<p class="why" role="alert">{escape(why)}</p>' if why else ""
    trusted = (
        f'<p class="soft">To keep working without the network, this device has to trust this application: '
        f'<a href="{AUTHORITY_PATH}">its certificate</a>, made on that computer, good for it alone.</p>'
        if trust
        else ""
    )
    body = f"""<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>Pair this device · Yielding Coil</title><style>{_STYLE}</style></head>
<body><div class="tape"></div><main>
<h1>Pair this device</h1>
<p>Yielding Coil runs on another computer. There, open <b>Devices</b> in the menu “View”, and press
<b>Pair a device</b>.</p>
{said}
<form method="post" action="{PATH}">
<label for="code">Code shown there
<input id="code" name="code" value="{escape(code)}" autocomplete="off" autocapitalize="characters"
spellcheck="false" required maxlength="20"></label>
<label for="name">Name of this device
<input id="name" name="name" value="{escape(name)}" required maxlength="60" autocomplete="off"></label>
<input type="hidden" name="to" value="{escape(to)}">
<button>Pair</button>
</form>
<p class="soft">A code pairs one device and lasts five minutes. The device can be sent away at any time.</p>
{trusted}
</main></body></html>"""
    sent = {"Content-Security-Policy": POLICY, "Cache-Control": "no-store", **(headers or {})}
    return HTMLResponse(body, status, headers=sent)


def guessed_name(agent: str) -> str:
    """What a device may be called, from what its browser says it is."""
    kinds = (("iPhone", "Phone"), ("iPad", "Tablet"), ("Mobile", "Phone"), ("Android", "Tablet"))
    return next((name for mark, name in kinds if mark in agent), "Computer")
