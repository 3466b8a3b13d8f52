import {
  FAMILIES,
  familyOf,
  figure,
  figuresIn,
  shownAsIn,
  usualSets,
  type figuresOut,
  type Refusal,
  type Settings,
  type ShownAs,
} from '@frustum/core';
import type { InventoryColumn, InventoryRow } from '@frustum/formats';

/** A list of nothing, where an empty cell would be the usual one. */
export const NONE = 'none';

type Cells = InventoryRow['cells'];

/** Columns by what they are in a loop’s set-up. */
export const COLUMN_OF: Readonly<Record<string, InventoryColumn>> = {
  siteName: 'site',
  timeZone: 'time zone',
  loopName: 'loop',
  place: 'place',
  family: 'measures',
  workingValue: 'works at',
  workingC: 'water °C',
  tolerance: 'tolerance',
  shownAs: 'unit',
  intervalDays: 'every days',
  dueBy: 'due by',
  controls: 'controls',
  controlAction: 'which it',
  holdMinutes: 'longest hold, min',
  pointSet: 'standards',
  surroundings: 'surroundings',
  water: 'in the water',
  body: 'on the body',
  referenceGroup: 'on the reference',
  backupOf: 'backup of',
  settings: 'settings',
  takes: 'conditions from',
  limits: 'limits',
  channel: 'channel',
  sensorName: 'sensor',
  name: 'sensor',
  serial: 'serial',
  model: 'model',
  boughtOn: 'bought on',
  fittedOn: 'fitted on',
  storage: 'shelf',
};
/** Where a refusal of the core belongs. */
export const COLUMN_OF_REFUSAL: Readonly<Partial<Record<Refusal['code'], InventoryColumn>>> = {
  'unknown-standard': 'standards',
  'scale-unknown': 'unit',
  'family-unknown': 'measures',
  'setting-unknown': 'settings',
  'choice-unknown': 'settings',
  'out-of-range': 'works at',
  'runs-rest-on-it': 'settings',
  'giver-unfit': 'conditions from',
  'backup-unfit': 'backup of',
};

/** A family by its name or its id; what is neither stays, so that it can be named. */
export const familyIdOf = (measures: string): string =>
  FAMILIES.find((f) => f.id === measures || f.name.toLowerCase() === measures.toLowerCase())?.id ?? measures;

/** A figure as people write it; what is none stays, so that it can be named. */
const number = (cell: string): number | string => figure(cell) ?? cell;
const words = (cell: string): string[] => cell.split(/\s+/).filter((word) => word !== '' && word !== NONE);

/** A new loop, as the form of Set-up would send it; an empty cell is the usual. */
export function inputOf(
  cells: Cells,
  siteName: string,
  json: Partial<Record<InventoryColumn, object>>,
  today: string,
): object {
  const family = familyIdOf(cells.measures);
  const settings = (json.settings ?? {}) as Settings;
  const workingC = number(cells['water °C'] || '25');
  const typed = { workingValue: number(cells['works at']), tolerance: number(cells.tolerance) };
  const known = FAMILIES.some((f) => f.id === family);
  return {
    siteName,
    timeZone: cells['time zone'] || 'UTC',
    loopName: cells.loop,
    place: cells.place,
    family,
    settings,
    ...(known ? figuresIn({ family, settings, workingC, scale: cells.unit }, typed, null) : typed),
    // The usual tolerance is in the family's own unit.
    ...(cells.tolerance === '' && known ? { tolerance: number(familyOf(family).typed.tolerance) } : {}),
    workingC,
    shownAs: shownAsIn(family, settings, cells.unit, number(cells['display step'])),
    intervalDays: number(cells['every days'] || '30'),
    dueBy: cells['due by'] || 'calendar',
    controls: cells.controls,
    controlAction: cells['which it'],
    ...(cells['longest hold, min'] ? { holdMinutes: number(cells['longest hold, min']) } : {}),
    pointSet: cells.standards ? words(cells.standards) : known ? [...(usualSets(family, settings)[0] ?? [])] : [],
    surroundings: words(cells.surroundings),
    water: cells['in the water'],
    body: cells['on the body'],
    referenceGroup: cells['on the reference'],
    limits: json.limits ?? {},
    channel: json.channel ?? { kind: 'hand' },
    sensorName: cells.sensor || `${cells.loop} probe`,
    serial: cells.serial,
    fittedOn: cells['fitted on'] || today,
  };
}

const isSameScale = (a: { readonly scale: string; readonly step: unknown }, b: ShownAs) =>
  a.scale === b.scale && a.step === b.step;

/** What a row says of a loop that is there: an empty cell leaves what is there. */
export function changedIn(
  cells: Cells,
  json: Partial<Record<InventoryColumn, object>>,
  loop: Parameters<typeof figuresOut>[0],
): object {
  const said = (column: InventoryColumn, made: unknown) => (cells[column] === '' ? undefined : made);
  const { family, shownAs } = loop;
  const settings = (json.settings ?? loop.settings) as Settings;
  const workingC = said('water °C', number(cells['water °C'])) as number | undefined;
  const scale = cells.unit || shownAs.scale;
  const step = said('display step', number(cells['display step'])) ?? shownAs.step ?? undefined;
  const shown = shownAsIn(family, settings, scale, step as number);
  const typed = { workingValue: said('works at', number(cells['works at'])) as number, tolerance: said('tolerance', number(cells.tolerance)) as number }; // prettier-ignore
  const all = {
    place: said('place', cells.place),
    ...figuresIn({ family, settings, workingC: workingC ?? loop.workingC, scale }, typed, loop),
    workingC,
    shownAs: isSameScale(shown, shownAs) ? undefined : shown,
    intervalDays: said('every days', number(cells['every days'])),
    dueBy: said('due by', cells['due by']),
    controls: said('controls', cells.controls),
    controlAction: said('which it', cells['which it']),
    holdMinutes: said('longest hold, min', number(cells['longest hold, min'])),
    pointSet: said('standards', words(cells.standards)),
    surroundings: said('surroundings', words(cells.surroundings)),
    water: said('in the water', cells['in the water']),
    body: said('on the body', cells['on the body']),
    referenceGroup: said('on the reference', cells['on the reference']),
    settings: json.settings,
    limits: json.limits,
  };
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value !== undefined));
}

export const ofSensorIn = (cells: Cells) =>
  Object.fromEntries(
    (
      [
        ['serial', cells.serial],
        ['model', cells.model],
        ['boughtOn', cells['bought on']],
        ['fittedOn', cells['fitted on']],
      ] as const
    ).filter(([, value]) => value !== ''),
  );
