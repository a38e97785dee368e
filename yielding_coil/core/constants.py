"""Constants of nature and of materials, SI (CODATA 2018 through scipy.constants)."""

import math

from scipy.constants import c, epsilon_0, mu_0

SPEED_OF_LIGHT_M_PER_S: float = float(c)
MU_0_H_PER_M: float = float(mu_0)
EPSILON_0_F_PER_M: float = float(epsilon_0)

NEPER_PER_DB = math.log(10) / 20
# Annealed copper, International Annealed Copper Standard (IEC 60028), 20 °C.
COPPER_RESISTIVITY_OHM_M = 1.7241e-8
