import { Link } from 'react-router';
import { CONDITIONS, type ConditionOfRun } from '@frustum/core';
import {
  unitOf,
  type ChannelConfig,
  type ChannelState,
  type LiveSample,
  type LoopRow,
  type SensorView,
} from '@frustum/contract';
import { useLiveChannel } from '../../app/live.ts';
import { ValueNow } from '../../app/value-now.tsx';
import { fixed } from '../../format/numbers.ts';
import { inFamily, upper, type InFamily } from '../../format/in-family.ts';
import { Fact } from '../../ui/fact.tsx';
import { ChannelMark } from '../../ui/channel-mark.tsx';
import { wayOf } from '../../wires/wire-forms.ts';

function rangeOf(channel: ChannelConfig): string {
  const { rangeLow, rangeHigh } = channel;
  if (rangeLow === null && rangeHigh === null) return '';
  return `${rangeLow ?? 'no lower end'} to ${rangeHigh ?? 'no upper end'} ${unitOf(channel)}`;
}

/** Where a condition of a loop comes from, now and between its runs. */
function comesFrom({ name, value, from, loopName, because }: ConditionOfRun): string {
  const { unit } = CONDITIONS[name];
  const figure = `${Number(value.toPrecision(5))} ${unit}`;
  if (from === 'loop') return `from ${loopName}`;
  return because ? `${figure}: ${loopName} gives none, ${because}` : `${figure}, as set up`;
}

/** Where this loop's value comes from, what it is just now, and where to change that. */
export function ChannelSection({ row, conditions }: Pick<SensorView, 'row' | 'conditions'>) {
  const { channel } = row;
  const { state, message, sample } = useLiveChannel(row.channelId);
  const range = rangeOf(channel);
  const figures = inFamily(row);
  return (
    <section aria-label="Channel" className="border-t border-base-300 mt-5 pt-4">
      <div className="flex flex-wrap gap-3 items-baseline">
        <h2>Channel</h2>
        <span className="sub [overflow-wrap:anywhere]">{wayOf(channel)}</span>
        <Link
          className="btn btn-outline border-base-300 btn-sm max-lg:h-12 ml-auto"
          to={`/set-up/channel/${row.sensorId}`}
        >
          Change the channel
        </Link>
      </div>
      <dl className="flex flex-wrap gap-x-10 gap-y-3 mt-3">
        {channel.kind !== 'hand' && <ShowsNow sample={sample} row={row} state={state} />}
        {sample && <SignalNow sample={sample} figures={figures} />}
        {sample?.impedance && (
          <Fact name="Impedance: glass, reference">
            <span className="fig text-xl">
              {fixed(sample.impedance.membraneMohm, 0)} MΩ, {fixed(sample.impedance.referenceKohm, 1)} kΩ
            </span>
          </Fact>
        )}
        <Fact name="Coefficients live">
          {channel.coefficientsIn === 'sensor' ? 'in the sensor’s head' : 'in the instrument'}
        </Fact>
        <Fact name="Compensated by">{channel.compensatedBy || 'its own thermometer'}</Fact>
        {conditions.map((c) => (
          <Fact key={c.name} name={upper(CONDITIONS[c.name].name)}>
            {comesFrom(c)}
          </Fact>
        ))}
        {range && <Fact name="Range">{range}</Fact>}
        {channel.outputs.length > 0 && <Fact name="Outputs on it">{channel.outputs.join(', ')}</Fact>}
        {'staleSeconds' in channel && (
          <Fact name="Read, stale after">
            every {channel.pollSeconds} s, {channel.staleSeconds} s
          </Fact>
        )}
      </dl>
      {message && <p className="mt-2">{message}</p>}
    </section>
  );
}

function ShowsNow({ sample, row, state }: { sample: LiveSample | null; row: LoopRow; state: ChannelState }) {
  return (
    <Fact name="Shows now">
      {sample ? (
        <span className="fig text-xl">
          <ValueNow row={row} sample={sample} unitClass="sub text-base" />
        </span>
      ) : (
        '–'
      )}{' '}
      <ChannelMark state={state} />
    </Fact>
  );
}

function SignalNow({ sample, figures }: { sample: LiveSample; figures: InFamily }) {
  return (
    <Fact name="Signal, temperature">
      <span className="fig text-xl">
        {sample.unit === figures.signalUnit ? figures.signal(sample.signal) : figures.value(sample.signal)}{' '}
        {sample.unit}, {fixed(sample.temperatureC, 1)} °C
      </span>
    </Fact>
  );
}
