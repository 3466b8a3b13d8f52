import { useState } from 'react';
import { judge } from '@frustum/core';
import { problemOf, useWriteAdjustmentMutation, api } from '../../app/api.ts';
import { useAppDispatch } from '../../app/store.ts';
import { fixed } from '../../format/numbers.ts';
import { Notice } from '../../ui/notice.tsx';
import type { BenchRun } from './use-run.ts';

/** The figures that go into the channel: written where that is possible, entered by hand where not. */
export function AdjustPanel({ run }: { run: BenchRun }) {
  const { state, view, send, prepare } = run;
  const dispatch = useAppDispatch();
  const [write, { isLoading }] = useWriteAdjustmentMutation();
  const [trouble, setTrouble] = useState<string | null>(null);
  const coefficients = judge(state)?.calibration.coefficients;
  if (!coefficients) return null;
  const wired = state.plan.channelKind === 'modbus';
  const body = { type: 'adjusted' as const, coefficients, how: 'entered-by-hand' as const };
  const rows = [
    ['Zero (offset)', `${fixed(state.plan.inForce.zero, 1)} mV`, `${fixed(coefficients.zero, 1)} mV`],
    ['Slope', `${fixed(100 * state.plan.inForce.sensitivity, 1)} %`, `${fixed(100 * coefficients.sensitivity, 1)} %`],
  ];
  const send1 = async () => {
    setTrouble(null);
    const answer = await write({ runId: view.runId, event: prepare(body) });
    if (answer.data) void dispatch(api.util.upsertQueryData('run', view.runId, answer.data));
    else setTrouble(problemOf(answer.error).detail);
  };
  return (
    <div>
      <h2 className="text-[27px] leading-tight">
        {wired ? 'Write these figures into the transmitter' : 'Enter these figures at the controller'}
      </h2>
      <table className="w-full max-w-xl text-lg my-5">
        <thead>
          <tr className="sub text-sm text-right">
            <th className="font-normal text-left">figure</th>
            <th className="font-normal">in force</th>
            <th className="font-normal">new</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, before, after]) => (
            <tr key={name} className="border-t border-base-300">
              <td className="py-3">{name}</td>
              <td className="fig text-right sub">{before}</td>
              <td className="fig text-right text-2xl">{after}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sub">
        Afterwards it should show {state.plan.points.at(-1)!.standard.name} as the standard’s value at its temperature;
        the next step reads it back.
        {wired
          ? ''
          : ' A controller that takes no figures: run its own calibration in the same cups, then confirm here.'}
      </p>
      {trouble && (
        <div className="mt-3">
          <Notice kind="trouble" role="alert">
            {trouble} Nothing was changed here.
          </Notice>
        </div>
      )}
      <div className="flex gap-2.5 mt-5 flex-wrap">
        {wired && (
          <button
            type="button"
            className="btn btn-primary h-16 text-lg flex-1"
            disabled={isLoading}
            onClick={() => void send1()}
          >
            {isLoading ? 'Writing …' : 'Write and read back'}
          </button>
        )}
        <button
          type="button"
          className={`btn h-16 text-lg flex-1 ${wired ? 'btn-outline border-base-300' : 'btn-primary'}`}
          disabled={isLoading}
          onClick={() => send(body)}
        >
          I entered them
        </button>
      </div>
    </div>
  );
}
