import type { AlarmLimits } from '@frustum/core';
import type { ChangeRow } from '@frustum/contract';
import type { InFamily } from '../../format/in-family.ts';
import { useChangesQuery } from '../../app/api.ts';
import { timeOf } from '../../format/dates.ts';

/** Fields as people call them. */
const WORDS: Readonly<Record<string, string>> = {
  name: 'name',
  place: 'place',
  workingValue: 'works at',
  workingC: 'water temperature',
  tolerance: 'tolerance',
  intervalDays: 'days between runs',
  dueBy: 'what makes it due',
  controls: 'what it controls',
  controlAction: 'what that does',
  holdMinutes: 'longest hold, min',
  referenceGroup: 'on the same reference',
  body: 'on the body',
  water: 'in the water',
  backupOf: 'backup of',
  settings: 'what its arithmetic knows',
  takes: 'conditions from other loops',
  surroundings: 'surroundings',
  limits: 'limits of its own',
  pointSet: 'usual standards',
  archivedAt: 'archived',
  timeZone: 'time zone',
  serial: 'serial',
  fittedOn: 'fitted on',
  model: 'model',
  boughtOn: 'bought on',
  soakingSince: 'soaking since',
  shownAs: 'the instrument shows',
  alarmLimits: 'limits of the water',
};

const said = (value: unknown): string => {
  if (value === null || value === '') return 'nothing';
  if (typeof value === 'object')
    return (
      JSON.stringify(value)
        .replace(/[{}[\]"]/g, '')
        .replace(/,/g, ', ') || 'nothing'
    );
  return typeof value === 'string' ? value : JSON.stringify(value);
};

/** Limits of the water in the scale of their loop: "actLow 7.6, warnLow 7.8". */
const limitWords = (limits: Partial<AlarmLimits>, figures: InFamily): string =>
  Object.entries(limits)
    .flatMap(([key, of]) => {
      if (of == null || of === false) return [];
      const name = LIMITS[key as keyof AlarmLimits];
      if (typeof of === 'boolean') return [name];
      return key.endsWith('Minutes')
        ? [`${name} ${of} min`]
        : [`${name} ${key === 'perHour' ? figures.size(of) : figures.value(of)} ${figures.unit}`];
    })
    .join(', ') || 'none';

const LIMITS: Readonly<Record<keyof AlarmLimits, string>> = {
  warnLow: 'warn below',
  warnHigh: 'warn above',
  actLow: 'act below',
  actHigh: 'act above',
  forMinutes: 'beyond for',
  daily: 'along with the day',
  perHour: 'within an hour',
  frozenMinutes: 'without moving for',
  silentMinutes: 'silent for',
};

/** A figure of a loop with its unit and scale; everything else as it is. */
function printed(field: string, value: unknown, figures: InFamily | null): string {
  if (figures && typeof value === 'number') {
    if (field === 'workingValue') return `${figures.value(value)} ${figures.unit}`;
    if (field === 'tolerance') return `${figures.size(value, 1)} ${figures.unit}`;
    if (field === 'workingC') return `${value} °C`;
  }
  if (figures && field === 'alarmLimits') return limitWords(value ?? {}, figures);
  if (field === 'shownAs') {
    const { scale, step } = (value ?? {}) as { scale?: string; step?: number | null };
    return [scale || 'its usual unit', step == null ? '' : `in steps of ${step}`].filter(Boolean).join(' ');
  }
  return said(value);
}

const fieldWords = ({ field, from, to }: ChangeRow['fields'][number], figures: InFamily | null) =>
  field === 'archivedAt'
    ? to
      ? 'archived'
      : 'brought back'
    : `${WORDS[field] ?? field}: ${printed(field, from, figures)} → ${printed(field, to, figures)}`;

/** What became another here: from, to, why, when and by whom. */
export function ChangeHistory({ of, figures = null }: { of: string; figures?: InFamily | null }) {
  const { data = [] } = useChangesQuery(of);
  if (!data.length) return null;
  return (
    <details>
      <summary className="cursor-pointer py-2 sub text-sm">
        Changed {data.length === 1 ? 'once' : `${data.length} times`}
      </summary>
      <ul className="text-[15px]">
        {data.map((c) => (
          <li key={c.changeId} className="border-t border-base-300 py-1.5">
            {c.fields.map((f) => fieldWords(f, figures)).join('; ')}
            <span className="sub text-sm block">
              {timeOf(c.at)}, {c.by}
              {c.why && `: ${c.why}`}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
