import { conditionIn, type ConditionName, type Surrounded } from '@frustum/core';
import type { LiveSample, LoopRow } from '@frustum/contract';
import { inFamily } from '../format/in-family.ts';
import { useMarginsQuery } from './api.ts';
import { useLiveChannel } from './live.ts';

interface Shown {
  readonly row: LoopRow;
  readonly sample: LiveSample;
  readonly unitClass?: string;
}

/** What a sample of a loop's channel is as a value, under what other loops show of its conditions just now. */
export function ValueNow(props: Shown) {
  return Object.keys(props.row.takes).length ? <Surroundings {...props} /> : <Value {...props} surrounded={{}} />;
}

function Value({ row, sample, unitClass, surrounded }: Shown & { surrounded: Surrounded }) {
  const figures = inFamily(row);
  const { signal, unit, temperatureC } = sample;
  return (
    <>
      {figures.value(figures.valueOf(signal, unit, temperatureC, row.inForce, surrounded))}{' '}
      <span className={unitClass}>{figures.unit}</span>
    </>
  );
}

/** With one reader for each condition that there is: most loops take none, and are spared them. */
function Surroundings(props: Shown) {
  const { row } = props;
  const surrounded: Surrounded = {
    ...useCondition(row, 'pressureKPa'),
    ...useCondition(row, 'salinity'),
    ...useCondition(row, 'ph'),
  };
  return <Value {...props} surrounded={surrounded} />;
}

/** A condition as another loop shows it; nothing where none does just now: then the set-up's figure holds. */
function useCondition({ takes }: LoopRow, name: ConditionName): Surrounded {
  const { data } = useMarginsQuery();
  const giver = data?.rows.find((r) => r.loopId === takes[name]);
  const { state, sample } = useLiveChannel(giver?.channelId ?? '');
  if (!giver || !sample || state !== 'live') return {};
  const figures = inFamily(giver);
  const value = figures.valueOf(sample.signal, sample.unit, sample.temperatureC, giver.inForce);
  const own = value === null ? null : conditionIn(value, figures.model.valueUnit, name);
  return own === null ? {} : { [name]: own };
}
