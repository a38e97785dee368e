import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import simpson

from yielding_coil.core.errors import OutOfDomainError
from yielding_coil.core.line import Line, OpenCoax
from yielding_coil.core.parts import Capacitor, FixedLoad, Inductor
from yielding_coil.core.system import Element, System
from yielding_coil.data import cable, cables

positive = st.floats(0.05, 20)
elements = st.one_of(
    st.builds(
        lambda place, uh, q, pf: ("coil", place, Inductor(uh * 1e-6, q, 10e6, pf * 1e-12)),
        st.sampled_from(["series", "shunt"]),
        positive,
        st.floats(20, 500),
        st.floats(0, 1),
    ),
    st.builds(
        lambda place, pf, q: ("capacitor", place, Capacitor(pf * 1e-12, q)),
        st.sampled_from(["series", "shunt"]),
        st.floats(2, 2000),
        st.floats(50, 3000),
    ),
    st.builds(
        lambda key, metres: ("line", "through", Line(cable(key), metres)),
        st.sampled_from(sorted(cables())),
        st.floats(0.2, 40),
    ),
)


def burnt_along(line, frequency, far_v, far_i):
    """Watts in a line, by adding up R|I|² + G|V|² along it: R, G per metre from γ·Z0 and γ/Z0."""
    gamma, z0 = line.cable.propagation(frequency)
    x = np.linspace(0, line.length_m, 4001)
    forward, backward = (far_v + z0 * far_i) / 2, (far_v - z0 * far_i) / 2
    v = forward * np.exp(gamma * x) + backward * np.exp(-gamma * x)
    i = (forward * np.exp(gamma * x) - backward * np.exp(-gamma * x)) / z0
    return simpson((gamma * z0).real * np.abs(i) ** 2 + (gamma / z0).real * np.abs(v) ** 2, x=x)


@given(
    cascade=st.lists(elements, min_size=1, max_size=5),
    r=st.floats(2, 3000),
    x=st.floats(-2000, 2000),
    mhz=st.floats(1.8, 30),
)
def test_power_in_is_power_into_the_wire_and_every_loss(cascade, r, x, mhz):
    """To 1e-9 of 100 W, every loss found on its own: |I|²R, |V|²G, and a line walked along."""
    f = mhz * 1e6
    system = System(FixedLoad(r + 1j * x), [Element(f"{k}{n}", p, part) for n, (k, p, part) in enumerate(cascade)])

    stations = system.stations(f, 100.0)

    # The same network by its voltages and currents, from one ampere in the antenna.
    current, voltage = 1 + 0j, r + 1j * x
    into_the_wire = (voltage * np.conj(current)).real
    burnt = []
    for element in system.elements:
        if isinstance(element.part, Line):
            burnt.append(burnt_along(element.part, f, voltage, current))
            a, b, c, d = element.part.chain(f)
            voltage, current = a * voltage + b * current, c * voltage + d * current
        elif element.place == "series":
            z = complex(element.part.impedance_ohm(f))
            burnt.append(abs(current) ** 2 * z.real)
            voltage += current * z
        else:
            y = complex(element.part.admittance_s(f))
            burnt.append(abs(voltage) ** 2 * y.real)
            current += voltage * y
    scale = 100 / (voltage * np.conj(current)).real

    losses = [float(s.loss_w) for s in stations[1:]]
    assert float(stations[-1].power_w) == pytest.approx(100, rel=1e-12)
    assert float(stations[0].power_w) + sum(losses) == pytest.approx(100, rel=1e-9)
    assert float(stations[0].power_w) == pytest.approx(into_the_wire * scale, rel=1e-9)
    for loss, apart in zip(losses, burnt, strict=True):
        assert loss == pytest.approx(apart * scale, rel=1e-6, abs=1e-7)


def test_a_match_by_hand():
    """94 − j463 Ω at 18.1 MHz, 7.01 pF across and 3.00 µH in series, is 50 Ω (practice; section L networks)."""
    system = System(
        FixedLoad(94 - 463j),
        [Element("c", "shunt", Capacitor(7.01e-12)), Element("l", "series", Inductor(3.00e-6))],
    )

    antenna, shunt, match_station = system.stations(18.1e6, 100)

    assert match_station.impedance_ohm == pytest.approx(50, abs=0.5)
    assert float(match_station.voltage_v) == pytest.approx(100, rel=0.01)  # √(2·100·50)
    # All of 100 W in 94 Ω: I = 1.03 A RMS, times |94 − j463| and √2.
    assert float(antenna.voltage_v) == pytest.approx(np.sqrt(2 * 100 / 94) * abs(94 - 463j), rel=0.01)
    assert float(shunt.peak_current_a) == pytest.approx(
        float(antenna.voltage_v) * 2 * np.pi * 18.1e6 * 7.01e-12, rel=1e-6
    )


def test_the_same_cascade_in_scikit_rf():
    """scikit-rf 2.2.0: the same coil, capacitor and line as two-ports, terminated by the load."""
    import skrf

    f = np.linspace(13e6, 15e6, 11)
    frequency = skrf.Frequency.from_f(f, unit="Hz")
    load, coil, line = 30 - 200j, Inductor(2e-6, 200), Line(cable("pe-5"), 12.3)
    gamma, z0 = line.cable.propagation(f)
    media = skrf.media.DefinedGammaZ0(frequency, z0_port=50, gamma=gamma, z0=z0)
    plain = skrf.media.DefinedGammaZ0(frequency, z0=50)
    one, none = np.ones(11, dtype=complex), np.zeros(11, dtype=complex)
    chain = np.array([[one, coil.impedance_ohm(f)], [none, one]]).transpose(2, 0, 1)
    series = skrf.Network(frequency=frequency, s=skrf.network.a2s(chain, 50), z0=50)
    network = media.line(12.3, "m") ** series ** plain.shunt_capacitor(120e-12) ** _load(frequency, load)

    system = System(
        FixedLoad(load),
        [
            Element("c", "shunt", Capacitor(120e-12)),
            Element("l", "series", coil),
            Element("line", "through", line),
        ],
    )
    assert system.impedance(f) == pytest.approx(network.z[:, 0, 0], rel=1e-6)


def _load(frequency, load):
    import skrf

    s = np.full((len(frequency), 1, 1), (load - 50) / (load + 50))
    return skrf.Network(frequency=frequency, s=s, z0=50)


def test_stations_name_their_place_and_the_box_is_above_the_line():
    system = System(
        FixedLoad(80 - 400j),
        [
            Element("capacitor", "shunt", OpenCoax(cable("pe-5"), 0.064)),
            Element("coil", "series", Inductor(2.28e-6, 220)),
            Element("line", "through", Line(cable("foam-6"), 20)),
        ],
    )
    assert system.match_station == 2
    assert [s.key for s in system.stations(21.2e6)] == ["antenna", "capacitor", "coil", "line"]
    assert System(FixedLoad(50), []).match_station == 0


def test_no_power_goes_where_there_is_no_resistance():
    stations = System(FixedLoad(-5 + 10j), []).stations(7e6)

    assert np.isnan(stations[0].power_w)
    assert np.isinf(stations[0].swr)


def test_a_line_in_series_is_refused():
    with pytest.raises(OutOfDomainError, match="through for a line, a transformer or a tuner; series or"):
        Element("line", "series", Line(cable("pe-5"), 2))
