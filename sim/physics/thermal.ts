/**
 * Boltzmann's constant over the elementary charge, mV/K. CODATA 2018: 1.380649e-23 / 1.602176634e-19.
 * The core's Nernst factor goes by RT/F; here it is reached by kT/e.
 */
const MV_PER_K = (1000 * 1.380649e-23) / 1.602176634e-19;

/** kT/e, mV. */
export const thermalMv = (temperatureC: number) => MV_PER_K * (temperatureC + 273.15);

/** How much slower an electrode is when cold: twice for every 15 °C. Common practice, no source. */
export const slownessAt = (temperatureC: number) => 2 ** ((25 - temperatureC) / 15);

/** The share of the way to rest that is gone after some seconds. */
export const shareGone = (seconds: number, timeConstant: number) => -Math.expm1(-seconds / timeConstant);
