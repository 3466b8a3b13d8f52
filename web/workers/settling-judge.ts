import {
  settleIn,
  watched,
  type Cup,
  type Response,
  type Sample,
  type School,
  type Settling,
  type Warning,
} from '@frustum/core';

/** What is looked at: a trace, what is asked of it, and what the operator has answered to earlier warnings in this cup. */
export interface Look {
  /** names the trace: another key, another beginning */
  readonly key: string;
  readonly response: Response;
  readonly samples: readonly Sample[];
  readonly school: School;
  readonly resolution: number;
  readonly disturbedAt: number | null;
  /** null where there is no cup that could be the wrong one: a shorted input, the water, a box */
  readonly cup: Cup | null;
  readonly answered: readonly string[];
}

/** What is seen: is it steady, and is anything odd? */
export interface Seen {
  readonly settling: Settling;
  readonly warning: Warning | null;
}

/** What was looked through already, for the trace that is being watched. */
let before: { key: string; checked: Settling['checked'] } | null = null;

/** The judge of one trace after the other, wherever it runs. */
export const judge = {
  look({ key, response, samples, school, resolution, disturbedAt, cup, answered }: Look): Seen {
    const checked = before?.key === key ? before.checked : undefined;
    const settling = settleIn(response, samples, school, resolution, disturbedAt ?? undefined, checked);
    before = { key, checked: settling.checked };
    const warning = cup ? (watched(cup, settling, samples, answered)?.warning ?? null) : null;
    return { settling, warning };
  },
};

export type SettlingJudge = typeof judge;
