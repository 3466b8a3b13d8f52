import { expose } from 'comlink';
import { settleIn, type Response, type Sample, type School, type Settling } from '@frustum/core';

/** What was looked through already, for the trace that is being watched. */
let watched: { key: string; checked: Settling['checked'] } | null = null;

const judge = {
  /**
   * @param key names the trace: another key, another beginning
   * @param response how the sensor answers in this cup
   */
  assess(
    key: string,
    response: Response,
    samples: readonly Sample[],
    school: School,
    resolution: number,
    disturbedAt: number | null,
  ): Settling {
    const before = watched?.key === key ? watched.checked : undefined;
    const settling = settleIn(response, samples, school, resolution, disturbedAt ?? undefined, before);
    watched = { key, checked: settling.checked };
    return settling;
  },
};

export type SettlingJudge = typeof judge;
expose(judge);
