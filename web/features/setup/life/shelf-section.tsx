import { useState } from 'react';
import { Link } from 'react-router';
import { FAMILIES, familyOf } from '@frustum/core';
import type { ShelvedSensor } from '@frustum/contract';
import { useAddSpareMutation, useChangeFittedSensorMutation } from '../../../app/api.ts';
import { besides } from '../../../format/besides.ts';
import { upper } from '../../../format/in-family.ts';
import { problemOf } from '../../../format/problem.ts';
import { Notice } from '../../../ui/notice.tsx';
import { RowField, RowForm } from '../../../ui/row-form.tsx';
import { shelfWords } from './where-words.ts';

/** Sensors that are fitted nowhere: spares, those that rest, and those that are out of use. */
export function ShelfSection({ shelf }: { shelf: readonly ShelvedSensor[] }) {
  const spares = shelf.filter((s) => s.retiredAt === null);
  const retired = shelf.filter((s) => s.retiredAt !== null);
  return (
    <section aria-label="Sensors on the shelf" className="mt-8">
      <h2>Sensors on the shelf</h2>
      {spares.length === 0 && <p className="sub mt-1">No spare. A probe that fails then waits for its delivery.</p>}
      <ul className="mt-1">
        {spares.map((sensor) => (
          <ShelfLine key={sensor.sensorId} sensor={sensor} />
        ))}
      </ul>
      <AddSpare />
      {retired.length > 0 && (
        <details className="border-t border-base-300 mt-2">
          <summary className="cursor-pointer py-3 sub text-sm">Out of use: {retired.length}</summary>
          <ul>
            {retired.map((sensor) => (
              <ShelfLine key={sensor.sensorId} sensor={sensor} />
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

function ShelfLine({ sensor }: { sensor: ShelvedSensor }) {
  const { sensorId, name, serial, model, family, version, soakingSince, retiredAt } = sensor;
  const [change, { error, isLoading }] = useChangeFittedSensorMutation();
  const soaks = familyOf(family).soak !== null && retiredAt === null;
  const soaking = soakingSince === null;
  return (
    <li className="border-t border-base-300 py-2 flex flex-wrap items-center gap-x-3 gap-y-1">
      <span className="min-w-0 grow basis-full lg:basis-64">
        <b className="font-[650]">{name}</b> <span className="sub text-sm">{besides(serial, model)}</span>
        <span className="block sub text-sm">
          {upper(familyOf(family).name)}, {shelfWords(sensor)}
        </span>
      </span>
      {soaks && (
        <button
          type="button"
          className="btn btn-ghost h-12 font-normal"
          disabled={isLoading}
          onClick={() => void change({ sensorId, body: { version, to: { soaking }, why: '' } })}
        >
          {soaking ? 'Soak it now' : 'Out of its soak'}
          <span className="sr-only">: {name}</span>
        </button>
      )}
      <Link className="btn btn-outline border-base-300 h-12" to={`/sensors/${sensorId}/life`}>
        Fit or move<span className="sr-only"> {name}</span>
      </Link>
      {error !== undefined && (
        <Notice kind="trouble" role="alert">
          {problemOf(error).detail}
        </Notice>
      )}
    </li>
  );
}

const EMPTY = { name: '', serial: '', model: '', family: 'ph', boughtOn: '' };

/** A spare comes onto the shelf. */
function AddSpare() {
  const [typed, setTyped] = useState(EMPTY);
  const [add, { error, isLoading }] = useAddSpareMutation();
  const put = (part: Partial<typeof EMPTY>) => setTyped({ ...typed, ...part });
  const keep = async () => {
    const answer = await add({ ...typed, boughtOn: typed.boughtOn || null, storage: 'wet', soaking: false });
    if (answer.data) setTyped({ ...EMPTY, family: typed.family });
  };
  const field = (key: 'name' | 'serial' | 'model', most = 60) =>
    <input className="input" maxLength={most} autoComplete="off" value={typed[key]} onChange={(e) => put({ [key]: e.target.value })} />; // prettier-ignore
  return (
    <details className="border-t border-base-300">
      <summary className="cursor-pointer py-3">Put a sensor onto the shelf</summary>
      <RowForm error={error} onSave={() => void keep()}>
        <RowField label="Sensor">{field('name')}</RowField>
        <RowField label="It measures">
          <select className="select" value={typed.family} onChange={(e) => put({ family: e.target.value })}>
            {FAMILIES.map((f) => (
              <option key={f.id} value={f.id}>
                {upper(f.name)}
              </option>
            ))}
          </select>
        </RowField>
        <RowField label="Serial">{field('serial')}</RowField>
        <RowField label="Model, in your words">{field('model')}</RowField>
        <RowField label="Bought on">
          <input
            type="date"
            className="input"
            value={typed.boughtOn}
            onChange={(e) => put({ boughtOn: e.target.value })}
          />
        </RowField>
        <button className="btn btn-primary h-12" disabled={isLoading || !typed.name.trim()}>
          Put it there
        </button>
      </RowForm>
    </details>
  );
}
