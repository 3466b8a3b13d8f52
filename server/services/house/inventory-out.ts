import { familyOf, figuresOut, type LoopId } from '@frustum/core';
import { INVENTORY_COLUMNS, inventoryCsv, inventoryJson, type InventoryColumn } from '@frustum/formats';
import { NONE } from './inventory-cells.ts';
import type { FittedLoop } from '../../store/commands/places.ts';
import type { Context } from '../../context.ts';

/** Every loop in use with its sensor, and every sensor on the shelf, as rows of an inventory. */
async function rowsNow({ store }: Context): Promise<Record<InventoryColumn, string>[]> {
  const setUp = await store.readSetUp();
  const nameOf = (id: LoopId | null | undefined) => setUp.loops.find((l) => l.loop.id === id)?.loop.name ?? '';
  const json = (value: object) => (Object.keys(value).length ? JSON.stringify(value) : '');
  const nothing = Object.fromEntries(INVENTORY_COLUMNS.map((c) => [c, ''])) as Record<InventoryColumn, string>;
  const fitted = setUp.sites
    .filter((s) => s.archivedAt === null)
    .flatMap((site) =>
      setUp.loops
        .filter(({ loop }) => loop.siteId === site.id && loop.archivedAt === null)
        .map(({ loop, sensor, channel }): Record<InventoryColumn, string> => ({
          ...nothing,
          site: site.name,
          'time zone': site.timeZone,
          loop: loop.name,
          place: loop.place,
          measures: familyOf(loop.family).name,
          ...figuresCells(loop),
          'water °C': String(loop.workingC),
          'every days': String(loop.intervalDays),
          'due by': loop.dueBy,
          controls: loop.controls,
          'which it': loop.controlAction,
          'longest hold, min': String(loop.holdMinutes),
          standards: loop.pointSet.join(' ') || NONE,
          surroundings: loop.surroundings.join(' '),
          'in the water': loop.water,
          'on the body': loop.body,
          'on the reference': loop.referenceGroup,
          'backup of': nameOf(loop.backupOf),
          settings: json(loop.settings),
          'conditions from': json(Object.fromEntries(Object.entries(loop.takes).map(([k, id]) => [k, nameOf(id)]))),
          limits: json(loop.limits),
          channel: JSON.stringify(channel.config),
          sensor: sensor?.name ?? '',
          serial: sensor?.serial ?? '',
          model: sensor?.model ?? '',
          'bought on': sensor?.boughtOn ?? '',
          'fitted on': sensor?.fittedOn ?? '',
        })),
    );
  const shelved = setUp.shelved.map(({ sensor }) => ({
    ...nothing,
    measures: familyOf(sensor.family).name,
    sensor: sensor.name,
    serial: sensor.serial,
    model: sensor.model,
    'bought on': sensor.boughtOn ?? '',
    shelf: sensor.retiredAt === null ? sensor.storage : 'retired',
  }));
  return [...fitted, ...shelved];
}

function figuresCells(loop: FittedLoop['loop']) {
  const { workingValue, tolerance, unit } = figuresOut(loop);
  const { step } = loop.shownAs;
  return {
    'works at': String(workingValue),
    tolerance: String(tolerance),
    unit,
    'display step': step === null ? '' : String(step),
  };
}

export const inventoryAsCsv = async (context: Context) => inventoryCsv(await rowsNow(context));
export const inventoryAsJson = async (context: Context) => inventoryJson(await rowsNow(context));
