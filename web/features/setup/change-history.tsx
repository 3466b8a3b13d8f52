import type { ChangeRow } from '@frustum/contract';
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

const fieldWords = ({ field, from, to }: ChangeRow['fields'][number]) =>
  field === 'archivedAt' ? (to ? 'archived' : 'brought back') : `${WORDS[field] ?? field}: ${said(from)} → ${said(to)}`;

/** What became another here: from, to, why, when and by whom. */
export function ChangeHistory({ of }: { of: string }) {
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
            {c.fields.map(fieldWords).join('; ')}
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
