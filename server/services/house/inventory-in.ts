import { ValidationError } from 'yup';
import { dayIn, familyOf, Refusal, type LoopId, type Standard } from '@frustum/core';
import {
  changeLoopSchema,
  MAX_INVENTORY_ROWS,
  newSensorSchema,
  newSpareSchema,
  type InventoryStep,
  type InventoryView,
  type NewSensor,
} from '@frustum/contract';
import { decodeInventory, type InventoryColumn, type InventoryRow } from '@frustum/formats';
import type { Context } from '../../context.ts';
import type { ChangesAtOnce } from '../../store/commands/at-once.ts';
import { changedFields } from '../../store/commands/set-up.ts';
import type { Neighbour } from '../loops/neighbours.ts';
import { sensorToAdd } from '../loops/set-up.ts';
import { Slices } from '../../slices.ts';
import { inTurn } from '../runs/in-turn.ts';
import { changedIn, COLUMN_OF, COLUMN_OF_REFUSAL, familyIdOf, inputOf, ofSensorIn } from './inventory-cells.ts';
import { changeBy, loopToChange } from './set-up.ts';

type SetUp = Awaited<ReturnType<Context['store']['readSetUp']>>;
type KeptLoop = SetUp['loops'][number];

/** So many mistakes are shown at once; how many there are is said. */
const MAX_FAULTS = 200;

/** What an inventory would make of the house, without keeping anything. */
export async function rehearseInventory(context: Context, text: string, by: string): Promise<InventoryView> {
  const { view } = await read(context, text, by);
  return view;
}

/** Takes an inventory in: all of it, or nothing. */
export const takeInventory = (context: Context, text: string, by: string): Promise<InventoryView> =>
  inTurn('inventory', async () => {
    const { view, taken } = await read(context, text, by);
    if (view.faultCount || !view.steps.some((s) => s.what !== 'same')) return view;
    await context.store.changeAtOnce(taken);
    for (const { ids, channel, sensor } of taken.add) context.poller.add(ids.channel, channel, sensor.fittedOn);
    context.changed();
    return { ...view, kept: true };
  });

async function read(context: Context, text: string, by: string) {
  const { rows, fault, columnOf } = decodeInventory(text, MAX_INVENTORY_ROWS);
  const [setUp, standards] = await Promise.all([context.store.readSetUp(), context.store.readStandards()]);
  const reading = new Reading(context, by, setUp, standards, columnOf);
  if (fault) reading.faults.push({ ...fault, column: 0 });
  await inSlices(rows, (row) => reading.first(row));
  const all = reading.neighbours();
  await inSlices(reading.named, (named) => reading.second(named, all));
  const { faults, steps, taken } = reading;
  faults.sort((a, b) => a.line - b.line || a.column - b.column);
  steps.sort((a, b) => a.line - b.line);
  const view: InventoryView = {
    faults: faults.slice(0, MAX_FAULTS),
    faultCount: faults.length,
    steps: faults.length ? [] : steps,
    kept: false,
  };
  return { view, taken };
}

/** One after the other, and lets everybody else have the thread in between. */
async function inSlices<T>(list: readonly T[], work: (one: T) => void): Promise<void> {
  const slices = new Slices();
  for (const one of list) {
    if (slices.isOver) await slices.next();
    work(one);
  }
}

/** A loop of the file, whether it is there already or not. */
interface Named {
  readonly row: InventoryRow;
  readonly siteName: string;
  readonly loopId: LoopId;
  readonly known: KeptLoop | null;
  readonly input: NewSensor | null;
}

/** Reads row by row; what leans on other rows is looked at once all of them are known. */
class Reading {
  readonly faults: { line: number; column: number; message: string }[] = [];
  readonly steps: InventoryStep[] = [];
  readonly taken = {
    add: [] as ChangesAtOnce['add'][number][],
    changeLoops: [] as ChangesAtOnce['changeLoops'][number][],
    changeSensors: [] as ChangesAtOnce['changeSensors'][number][],
    spares: [] as ChangesAtOnce['spares'][number][],
    backups: [] as ChangesAtOnce['backups'][number][],
  };
  readonly named: Named[] = [];
  private readonly lines = new Map<string, number>();

  constructor(
    private readonly context: Context,
    private readonly by: string,
    private readonly setUp: SetUp,
    private readonly standards: readonly Standard[],
    private readonly columnOf: (name: InventoryColumn) => number,
  ) {}

  private wrong = (row: InventoryRow, column: InventoryColumn | undefined, message: string) =>
    void this.faults.push({ line: row.line, column: column ? this.columnOf(column) : 0, message });

  /** The same, with what stands there. */
  private wrongIn(row: InventoryRow, column: InventoryColumn | undefined, message: string): void {
    const cell = column ? row.cells[column] : '';
    this.wrong(row, column, column && cell ? `${column} “${cell.slice(0, 40)}”: ${message}` : message);
  }

  /** Runs a check of contract or core; what it refuses becomes a fault at its column. */
  private within<T>(row: InventoryRow, check: () => T): T | null {
    try {
      return check();
    } catch (error) {
      if (error instanceof ValidationError)
        for (const e of error.inner.length ? error.inner : [error])
          this.wrongIn(row, COLUMN_OF[(e.path ?? '').replace(/^to\./, '').split(/[.[]/)[0]!], e.errors[0] ?? e.message);
      else if (error instanceof Refusal) this.wrongIn(row, COLUMN_OF_REFUSAL[error.code], error.message);
      else throw error;
      return null;
    }
  }

  first(row: InventoryRow): void {
    const { loop, sensor, shelf, site } = row.cells;
    if (loop === '' && sensor === '')
      return this.wrong(row, undefined, 'The row names neither a loop nor a sensor. Name one, or leave the row out.');
    const inUse = this.setUp.sites.filter((s) => s.archivedAt === null);
    const siteName = site || (inUse.length === 1 ? inUse[0]!.name : '');
    if (loop !== '' && siteName === '')
      return this.wrong(row, 'site', 'The site is missing. Name the place, like Tank room.');
    const key = loop === '' ? `shelf\n${sensor}\n${row.cells.serial}` : `${siteName}\n${loop}`;
    const before = this.lines.get(key);
    if (before !== undefined)
      return this.wrong(
        row,
        loop === '' ? 'sensor' : 'loop',
        `This one is in line ${before} already. Leave one of the two out.`,
      );
    this.lines.set(key, row.line);
    if (loop === '') return this.onShelf(row);
    if (shelf !== '')
      return this.wrong(row, 'shelf', 'A sensor at a loop is not on the shelf. Leave one of the two empty.');
    const json = this.objectsIn(row);
    if (!json) return;
    const home = this.setUp.sites.find((s) => s.name === siteName);
    const known = this.setUp.loops.find((l) => l.loop.siteId === home?.id && l.loop.name === loop) ?? null;
    if (known?.loop.archivedAt || home?.archivedAt)
      return this.wrong(row, 'loop', `${loop} is archived. Bring it back in Set-up first, or leave the row out.`);
    const zone = row.cells['time zone'];
    if (home && zone !== '' && zone !== home.timeZone)
      this.wrong(row, 'time zone', `${siteName} goes by ${home.timeZone}. Change that in Set-up, or leave the cell empty.`); // prettier-ignore
    const loopId = known?.loop.id ?? this.context.newId();
    const input = known ? null : this.within(row, () => newSensorSchema.validateSync(inputOf(row.cells, siteName, json, dayIn(home?.timeZone || row.cells['time zone'] || 'UTC', this.context.now())), { abortEarly: false })); // prettier-ignore
    if (known || input) this.named.push({ row, siteName, loopId, known, input });
  }

  /** Cells that hold JSON, as objects. */
  private objectsIn(row: InventoryRow): Partial<Record<InventoryColumn, object>> | null {
    const made: Partial<Record<InventoryColumn, object>> = {};
    for (const column of ['settings', 'conditions from', 'limits', 'channel'] as const) {
      const cell = row.cells[column];
      if (cell === '') continue;
      try {
        const value: unknown = JSON.parse(cell);
        if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new SyntaxError();
        made[column] = value;
      } catch {
        this.wrong(row, column, `“${cell.slice(0, 30)}” is no JSON object. Write it like {"cellConstant": 1}, or leave it empty.`); // prettier-ignore
        return null;
      }
    }
    return made;
  }

  private onShelf(row: InventoryRow): void {
    const { sensor: name, serial, model, measures, shelf } = row.cells;
    const boughtOn = row.cells['bought on'] || null;
    const same = (s: { readonly name: string; readonly serial: string }) => s.name === name && s.serial === serial;
    const isThere =
      this.setUp.shelved.some((s) => same(s.sensor)) || this.setUp.loops.some((l) => l.sensor && same(l.sensor));
    if (isThere || shelf === 'retired') return this.step(row, name, 'same', 'sensor');
    const asked = { name, serial, model, family: familyIdOf(measures), boughtOn, storage: shelf || 'wet' };
    const spare = this.within(row, () => newSpareSchema.validateSync(asked, { abortEarly: false }));
    if (!spare) return;
    const { soaking: _, ...kept } = spare;
    const noted = { eventId: this.context.newId(), by: this.by, at: new Date(this.context.now()).toISOString() };
    this.taken.spares.push({ spare: { ...kept, id: this.context.newId(), soakingSince: null }, noted });
    this.step(row, name, 'added', 'sensor');
  }

  private step(
    row: InventoryRow,
    name: string,
    what: InventoryStep['what'],
    of: InventoryStep['of'],
    fields: readonly string[] = [],
  ) {
    // prettier-ignore
    this.steps.push({ line: row.line, name, what, of, fields });
  }

  /** Loops that are in use, and those of the file. */
  neighbours(): readonly Neighbour[] {
    const inFile = new Set(this.named.map((n) => n.loopId));
    return [
      ...this.setUp.loops
        .filter(({ loop }) => loop.archivedAt === null && !inFile.has(loop.id))
        .map(({ loop }) => ({ siteName: this.setUp.sites.find((s) => s.id === loop.siteId)!.name, loop })),
      ...this.named.map(({ siteName, loopId, known, input }) => ({
        siteName,
        loop: known?.loop ?? { id: loopId, name: input!.loopName, family: input!.family, settings: input!.settings },
      })),
    ];
  }

  second(named: Named, all: readonly Neighbour[]): void {
    const links = this.linksOf(named, all);
    if (!links) return;
    if (named.known) this.change(named, named.known, links, all);
    else this.add(named, named.input!, links, all);
  }

  /** The loops that a row names, by their ids. */
  private linksOf({ row, siteName }: Named, all: readonly Neighbour[]) {
    const idOf = (column: InventoryColumn, name: string): LoopId | null => {
      const found = all.find((n) => n.siteName === siteName && n.loop.name === name);
      if (!found)
        this.wrong(row, column, `${siteName} has no loop “${name.slice(0, 40)}”. Write its name as in Set-up.`);
      return found?.loop.id ?? null;
    };
    const before = this.faults.length;
    const named = row.cells['backup of'];
    const backupOf = named === '' ? null : idOf('backup of', named);
    const from = Object.entries(this.objectsIn(row)?.['conditions from'] ?? {}) as [string, unknown][];
    const takes = Object.fromEntries(from.map(([key, name]) => [key, idOf('conditions from', String(name))]));
    return this.faults.length > before ? null : { backupOf, takes };
  }

  private add(
    { row, loopId }: Named,
    input: NewSensor,
    { backupOf, takes }: { readonly backupOf: LoopId | null; readonly takes: object },
    all: readonly Neighbour[],
  ): void {
    const { model } = row.cells;
    const boughtOn = row.cells['bought on'] || null;
    const add = this.within(row, () => {
      const whole = newSensorSchema.validateSync({ ...input, takes, backupOf }, { abortEarly: false });
      const own = newSpareSchema.pick(['model', 'boughtOn']).validateSync({ model, boughtOn }, { abortEarly: false });
      const made = sensorToAdd(this.context, whole, this.by, { standards: this.standards, all });
      return { ...made, ids: { ...made.ids, loop: loopId }, loop: { ...made.loop, backupOf: null }, sensor: { ...made.sensor, ...own } }; // prettier-ignore
    });
    if (!add) return;
    this.taken.add.push(add);
    if (backupOf) this.taken.backups.push({ loopId, backupOf });
    this.step(row, input.loopName, 'added', 'loop');
  }

  private change(
    { row, siteName, loopId }: Named,
    known: KeptLoop,
    { backupOf, takes }: { readonly backupOf: LoopId | null; readonly takes: object },
    all: readonly Neighbour[],
  ): void {
    const { cells } = row;
    if (cells.measures !== '' && familyIdOf(cells.measures) !== known.loop.family)
      return this.wrong(row, 'measures', `${known.loop.name} measures ${familyOf(known.loop.family).name}. What measures something else is another loop.`); // prettier-ignore
    if (cells.sensor !== '' && cells.sensor !== known.sensor?.name)
      return this.wrong(row, 'sensor', `${known.sensor ? `${known.sensor.name} is fitted there` : 'Nothing is fitted there'}. Fit or move a sensor on its own page.`); // prettier-ignore
    const change = () => changeBy(this.context, this.by, 'from an inventory');
    const asked = this.within(row, () => {
      const to = { ...changedIn(cells, this.objectsIn(row)!, known.loop), ...(cells['backup of'] ? { backupOf } : {}), ...(cells['conditions from'] ? { takes } : {}) }; // prettier-ignore
      const checked = changeLoopSchema.validateSync({ version: known.loop.version, to }, { abortEarly: false });
      const { archived: _, name: __, ...figures } = checked.to;
      return loopToChange(known, figures, { siteName, standards: this.standards, all });
    });
    if (!asked) return;
    const ofLoop = changedFields(known.loop, asked);
    const ofSensor = known.sensor ? changedFields(known.sensor, ofSensorIn(cells)) : [];
    if (ofLoop.length)
      this.taken.changeLoops.push({ loopId, asked: { version: known.loop.version, to: asked, change: change() } });
    if (ofSensor.length)
      this.taken.changeSensors.push({ sensorId: known.sensor!.id, asked: { version: known.sensor!.version, to: ofSensorIn(cells), eventId: this.context.newId(), change: change() } }); // prettier-ignore
    const fields = [...ofLoop, ...ofSensor].map((f) => COLUMN_OF[f.field] ?? f.field);
    this.step(row, known.loop.name, fields.length ? 'changed' : 'same', 'loop', fields);
  }
}
