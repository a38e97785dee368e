"""What several tests of the page do with it."""

import numpy as np

from yielding_coil.core import Cable, Line, Sweep
from yielding_coil.formats import touchstone

# Typed and pressed in one turn of the page's clock: no blur, no pause, faster than any finger.
AT_ONCE = """([field, text, act, way]) => {
    const find = (kind, words, want) => [...document.querySelectorAll(kind)].find((e) => words(e)?.trim() === want);
    const input = find('input', (e) => e.labels[0]?.textContent ?? e.ariaLabel, field);
    const press = find('button, a', (e) => e.textContent, act);
    input.focus();
    input.value = text;
    input.dispatchEvent(new Event('input', { bubbles: true }));
    if (way === 'Enter') {
        input.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
        return;
    }
    const kind = way === 'touch' ? { pointerType: 'touch' } : { pointerType: 'mouse' };
    for (const name of ['pointerdown', 'pointerup'])
        press.dispatchEvent(new PointerEvent(name, { bubbles: true, cancelable: true, ...kind }));
    press.click();
}"""


def button(page, name):
    return page.get_by_role("button", name=name, exact=True)


def far_end(end):
    """A file of 17.6 m of foam coax with that at its far end."""
    f = np.linspace(1e6, 60e6, 201)
    line = Line(Cable("foam", 50.0, 0.84, 0.9, 0.01), 17.6)
    load = np.full(f.size, 1e9 if end == "open" else 1e-9, dtype=complex)
    sweep = Sweep(f, line.input_impedance(f, load))
    return {"name": f"{end}.s1p", "mimeType": "text/plain", "buffer": touchstone.write(sweep)}
