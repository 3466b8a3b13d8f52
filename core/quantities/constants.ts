/** Molar gas constant, J/(mol K). CODATA 2018, exact. */
export const GAS_CONSTANT = 8.314462618;

/** Faraday constant, C/mol. CODATA 2018, exact to the digits given. */
export const FARADAY = 96485.33212;

/** Ice point of the Celsius scale, K. Exact by definition. */
export const ZERO_CELSIUS_K = 273.15;

export const MS_PER_DAY = 86_400_000;
