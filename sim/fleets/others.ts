// The demo's loops other than pH: long because it is a table.
import type { BundleLoop } from '@frustum/formats';
import type { Shown } from '../physics/body.ts';

/** Where the stand-ins of the house listen. */
export interface Stands {
  readonly host: string;
  /** the transmitter */
  readonly port: number;
  /** address of the controller's answer; a house without it has its pH loops only */
  readonly jsonUrl?: string;
  readonly multiProbePort?: number;
}

/** A loop of Tidewater House that is no pH loop: what an operator would have typed at set-up, and how it was run. */
export interface HouseLoop {
  readonly key: string;
  /** the body that it hangs on */
  readonly body: string;
  readonly name: string;
  readonly place: string;
  readonly family: string;
  readonly settings: Readonly<Record<string, number | string>>;
  /** loops that show its conditions, by their keys */
  readonly takes?: BundleLoop['takes'];
  readonly workingValue: number;
  readonly workingC: number;
  readonly tolerance: number;
  readonly intervalDays: number;
  readonly controls?: string;
  readonly controlAction?: 'raises' | 'lowers';
  readonly referenceGroup?: string;
  readonly surroundings?: readonly ('pressurised' | 'stocked' | 'high-purity')[];
  readonly compensatedBy?: string;
  readonly serial: string;
  readonly pointSet: readonly string[];
  /** what its runs of the past went through, and where: standard and place */
  readonly measured: readonly (readonly [standardId: string, place: string])[];
  /** a run that was held against a sample or thermometers instead: what was found, in which unit, ± and °C */
  readonly sample?: readonly [value: number, unit: string, plusMinus: number, temperatureC: number];
  /** days before today; none: never calibrated */
  readonly runsDaysAgo: readonly number[];
  /** runs since then met a bottle that is not what its label says */
  readonly oddLot?: OddLot;
  readonly ageDays: number;
  /** where its signal is on a wire, and in which unit */
  readonly wire: readonly [path: string, quantity: string] | readonly [path: 'multi-probe', quantity: string, number];
  readonly signal: (shown: Shown) => number;
}

/** A bottle that is not what its label says: what stands in it is off by so many mV. */
interface OddLot {
  readonly standardId: string;
  readonly label: string;
  readonly openedDaysAgo: number;
  readonly offMv: number;
}

const ODD_LOT: OddLot = { standardId: 'ferrocyanide', label: 'QX-7', openedDaysAgo: 8, offMv: 18 };

const own = { place: 'Plant room', runsDaysAgo: [] as number[], ageDays: 400 };
const electrode = (name: string) => (s: Shown) => s.electrodes[name]!;
const conductance = (s: Shown) => s.conductance;
const SILVER_CHLORIDE = { reference: 'silver-chloride-3.5', scale: 'own' };

/** Beside the seven pH loops; invented like them. */
export const OTHERS: readonly HouseLoop[] = [
  {
    ...own,
    key: 'display-temperature',
    body: 'display-temperature',
    name: 'Display temperature',
    place: 'Mangrove gallery',
    family: 'temperature',
    settings: {},
    workingValue: 25.5,
    workingC: 25.5,
    tolerance: 1,
    intervalDays: 60,
    controls: 'heater',
    controlAction: 'raises',
    serial: 'TH-0601',
    pointSet: [],
    measured: [['thermometers', 'process']],
    sample: [25.5, '°C', 0.2, 25.5],
    runsDaysAgo: [95, 30],
    wire: ['display-temperature/water/celsius', '°C'],
    signal: (s) => s.temperatureC,
  },
  {
    ...own,
    key: 'display-orp',
    body: 'display-orp',
    name: 'Display ORP',
    place: 'Mangrove gallery',
    family: 'orp',
    settings: SILVER_CHLORIDE,
    workingValue: 220,
    workingC: 25.5,
    tolerance: 20,
    intervalDays: 90,
    surroundings: ['stocked'],
    serial: 'TH-0602',
    pointSet: ['zero-plug', 'ferrocyanide'],
    measured: [['ferrocyanide', 'cup-redox 430']],
    runsDaysAgo: [240, 150, 70, 6],
    oddLot: ODD_LOT,
    wire: ['display-orp/signal/mv', 'mV'],
    signal: electrode('orp'),
  },
  {
    ...own,
    key: 'display-salinity',
    body: 'display-salinity',
    name: 'Display salinity',
    place: 'Mangrove gallery',
    family: 'salinity',
    settings: { cellConstant: 1 },
    workingValue: 22,
    workingC: 25.5,
    tolerance: 1,
    intervalDays: 60,
    controls: 'top-up valve',
    controlAction: 'lowers',
    surroundings: ['stocked'],
    compensatedBy: 'Display temperature',
    serial: 'TH-0603',
    pointSet: ['seawater-35'],
    measured: [['seawater-35', 'cup-S 35']],
    runsDaysAgo: [190, 120, 41],
    wire: ['display-salinity/signal/conductance_us', 'µS'],
    signal: conductance,
  },
  {
    ...own,
    key: 'line-1-ec',
    body: 'line-1-ec',
    name: 'Line 1 EC',
    place: 'Strawberry hall',
    family: 'conductivity',
    settings: { cellConstant: 1, alpha: 2 },
    workingValue: 1850,
    workingC: 21,
    tolerance: 80,
    intervalDays: 30,
    controls: 'nutrient dosing',
    controlAction: 'raises',
    serial: 'TH-0604',
    pointSet: ['air', 'kcl-0.01'],
    measured: [
      ['air', 'air'],
      ['kcl-0.01', 'cup-1413 µS/cm'],
    ],
    runsDaysAgo: [130, 95, 64, 28],
    wire: ['line-1-ec/signal/conductance_us', 'µS'],
    signal: conductance,
  },
  {
    ...own,
    key: 'line-2-ec',
    body: 'line-2-ec',
    name: 'Line 2 EC',
    place: 'Strawberry hall',
    family: 'conductivity',
    settings: { cellConstant: 1, alpha: 2 },
    workingValue: 1850,
    workingC: 21,
    tolerance: 80,
    intervalDays: 30,
    controls: 'nutrient dosing',
    controlAction: 'raises',
    serial: 'TH-0605',
    pointSet: ['air', 'kcl-0.01'],
    measured: [
      ['air', 'air'],
      ['kcl-0.01', 'cup-1413 µS/cm'],
    ],
    runsDaysAgo: [81, 52, 20],
    wire: ['line-2-ec/signal/conductance_us', 'µS'],
    signal: conductance,
  },
  ...(['nitrate', 'potassium'] as const).map((ion, i): HouseLoop => ({
    ...own,
    key: `multi-probe-${ion}`,
    body: 'multi-probe',
    name: `Multi-probe ${ion}`,
    place: 'Strawberry hall',
    family: 'ion',
    settings: { ion },
    workingValue: ion === 'nitrate' ? 480 : 180,
    workingC: 21,
    tolerance: ion === 'nitrate' ? 100 : 40,
    intervalDays: 28,
    referenceGroup: 'multi-probe',
    serial: `TH-061${i}`,
    pointSet: ion === 'nitrate' ? ['nitrate-10', 'nitrate-100'] : ['potassium-20', 'potassium-200'],
    measured:
      ion === 'nitrate'
        ? [
            ['nitrate-10', 'cup-nitrate 10'],
            ['nitrate-100', 'cup-nitrate 100'],
          ]
        : [
            ['potassium-20', 'cup-potassium 20'],
            ['potassium-200', 'cup-potassium 200'],
          ],
    runsDaysAgo: [330, 290, 240, 180, 130, 76, 49, 21],
    wire: ['multi-probe', 'mV', 2 + 2 * i],
    signal: electrode(ion),
  })),
  {
    ...own,
    key: 'make-up',
    body: 'make-up',
    name: 'Make-up resistivity',
    family: 'resistivity',
    settings: { cellConstant: 0.01, alpha: 2 },
    workingValue: 1.1,
    workingC: 18,
    tolerance: 0.15,
    intervalDays: 90,
    surroundings: ['high-purity', 'pressurised'],
    serial: 'TH-0621',
    pointSet: ['kcl-84'],
    measured: [['kcl-84', 'cup-84 µS/cm']],
    runsDaysAgo: [210, 130, 44],
    wire: ['make-up/signal/conductance_us', 'µS'],
    signal: conductance,
  },
  {
    ...own,
    key: 'remineralised-ec',
    body: 'remineralised-ec',
    name: 'Remineralised line EC',
    family: 'conductivity',
    settings: { cellConstant: 1, alpha: 2 },
    workingValue: 310,
    workingC: 18.5,
    tolerance: 15,
    intervalDays: 60,
    serial: 'TH-0622',
    pointSet: ['kcl-84', 'kcl-0.01'],
    measured: [
      ['kcl-84', 'cup-84 µS/cm'],
      ['kcl-0.01', 'cup-1413 µS/cm'],
    ],
    runsDaysAgo: [170, 115, 35],
    wire: ['remineralised-ec/signal/conductance_us', 'µS'],
    signal: conductance,
  },
  {
    ...own,
    key: 'remineralised-chloride',
    body: 'remineralised-chloride',
    name: 'Remineralised line chloride',
    family: 'ion',
    settings: { ion: 'chloride' },
    workingValue: 31,
    workingC: 18.5,
    tolerance: 5,
    intervalDays: 28,
    serial: 'TH-0623',
    pointSet: ['chloride-46', 'chloride-319'],
    measured: [
      ['chloride-46', 'cup-chloride 46'],
      ['chloride-319', 'cup-chloride 319'],
    ],
    runsDaysAgo: [90, 60, 33],
    wire: ['remineralised-chloride/signal/mv', 'mV'],
    signal: electrode('chloride'),
  },
  {
    ...own,
    key: 'remineralised-nitrate',
    body: 'remineralised-nitrate',
    name: 'Remineralised line nitrate',
    family: 'nitrate',
    settings: {},
    workingValue: 1.7,
    workingC: 18.5,
    tolerance: 0.5,
    intervalDays: 45,
    surroundings: ['pressurised'],
    serial: 'TH-0624',
    pointSet: ['nitrate-n-5'],
    measured: [['nitrate-n-5', 'cup-nitrate 5 as N']],
    runsDaysAgo: [],
    ageDays: 9,
    wire: ['remineralised-nitrate/signal/nitrate_n', 'mg/L NO3-N'],
    signal: (s) => s.nitrateN,
  },
  {
    ...own,
    key: 'rinse-chlorine',
    body: 'rinse-chlorine',
    name: 'Rinse line chlorine',
    family: 'chlorine',
    settings: { nominalSlope: 100, senses: 'acid', ph: 7.2 },
    takes: { ph: 'rinse-line' },
    workingValue: 0.5,
    workingC: 19,
    tolerance: 0.1,
    intervalDays: 14,
    controls: 'hypochlorite dosing',
    controlAction: 'raises',
    serial: 'TH-0631',
    pointSet: [],
    measured: [['sample', 'process']],
    sample: [0.5, 'mg/L', 0.03, 19],
    runsDaysAgo: [52, 38, 24, 11],
    wire: ['rinse-chlorine/signal/current_na', 'nA'],
    signal: (s) => s.chlorine,
  },
  {
    ...own,
    key: 'display-oxygen',
    body: 'display-oxygen',
    name: 'Display oxygen',
    place: 'Mangrove gallery',
    family: 'oxygen-optical',
    settings: { writtenIn: 'mg/L O2', inAir: 3, perC: 0.9, pressureKPa: 98.4, salinity: 22 },
    takes: { salinity: 'display-salinity' },
    workingValue: 6.7,
    workingC: 25.5,
    tolerance: 0.3,
    intervalDays: 60,
    controls: 'air pump',
    controlAction: 'raises',
    surroundings: ['stocked'],
    serial: 'TH-0641',
    pointSet: ['zero-oxygen', 'moist-air'],
    measured: [
      ['zero-oxygen', 'cup-zero oxygen'],
      ['moist-air', 'cup-water-saturated air'],
    ],
    runsDaysAgo: [236, 171, 118, 66, 9],
    wire: ['display-oxygen/signal/lifetime_ratio', 'τ0/τ'],
    signal: (s) => s.oxygen,
  },
  {
    ...own,
    key: 'line-1-oxygen',
    body: 'line-1-oxygen',
    name: 'Line 1 oxygen',
    place: 'Strawberry hall',
    family: 'oxygen-membrane',
    settings: { writtenIn: '% sat', inAir: 60, perC: 3.2, pressureKPa: 98.4 },
    workingValue: 88,
    workingC: 21,
    tolerance: 5,
    intervalDays: 30,
    serial: 'TH-0642',
    pointSet: ['moist-air'],
    measured: [['moist-air', 'cup-water-saturated air']],
    runsDaysAgo: [102, 74, 46, 19],
    wire: ['line-1-oxygen/signal/current_na', 'nA'],
    signal: (s) => s.oxygen,
  },
  {
    ...own,
    key: 'rinse-orp',
    body: 'rinse-orp',
    name: 'Rinse line ORP',
    family: 'orp',
    settings: SILVER_CHLORIDE,
    workingValue: 485,
    workingC: 19,
    tolerance: 20,
    intervalDays: 60,
    surroundings: ['pressurised'],
    serial: 'TH-0632',
    pointSet: ['zero-plug', 'ferrocyanide'],
    measured: [['ferrocyanide', 'cup-redox 430']],
    runsDaysAgo: [140, 82, 5],
    oddLot: ODD_LOT,
    wire: ['rinse-orp/signal/mv', 'mV'],
    signal: electrode('orp'),
  },
];

/** How the house reads a loop: one figure and one temperature in the controller's answer, or registers of the multi-probe. */
export function channelOf(loop: HouseLoop, { host, jsonUrl, multiProbePort }: Stands): Record<string, unknown> {
  const [path, quantity, register] = loop.wire;
  const about = { compensatedBy: loop.compensatedBy ?? '' };
  if (path === 'multi-probe')
    return {
      kind: 'modbus-map',
      host,
      port: multiProbePort,
      unitId: 1,
      table: 'input',
      register,
      type: 'float32',
      words: 'low-first',
      quantity,
      temperatureRegister: 8,
      temperatureType: 'float32',
      temperatureScale: 1,
      pollSeconds: 0.5,
      ...about,
    };
  const [probe] = path.split('/');
  return {
    kind: 'http-json',
    url: jsonUrl,
    pointer: `/probes/${path}`,
    quantity,
    temperaturePointer: `/probes/${probe}/water/celsius`,
    clockPointer: `/probes/${probe}/clock_s`,
    pollSeconds: 0.5,
    ...about,
  };
}
