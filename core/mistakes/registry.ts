import { BUBBLE } from './bubble.ts';
import { CAP_ON } from './cap-on.ts';
import { CARRY_OVER } from './carry-over.ts';
import { CUP_COLD } from './cup-cold.ts';
import { DRY_TIP } from './dry-tip.ts';
import type { Facts } from './facts.ts';
import { HUM } from './hum.ts';
import type { Hypothesis } from './hypothesis.ts';
import { POLARITY } from './polarity.ts';
import { SAME_READING } from './same-reading.ts';
import { SCALE } from './scale.ts';
import { STILL_MOVING } from './still-moving.ts';
import { THERMOMETER_ELSEWHERE } from './thermometer-elsewhere.ts';
import { UNLIKE_ITSELF } from './unlike-itself.ts';
import { WET_CELL } from './wet-cell.ts';
import { WRONG_COEFFICIENT } from './wrong-coefficient.ts';
import { WRONG_CUP } from './wrong-cup.ts';
import { WRONG_RANGE } from './wrong-range.ts';

/** What may be wrong with a cup while it is watched. A new one is a file here and a line in this list. */
export const IN_A_CUP: readonly Hypothesis<Facts>[] = [
  WRONG_CUP,
  POLARITY,
  CARRY_OVER,
  CAP_ON,
  SAME_READING,
  DRY_TIP,
  BUBBLE,
  STILL_MOVING,
  CUP_COLD,
  THERMOMETER_ELSEWHERE,
  WET_CELL,
  WRONG_RANGE,
  WRONG_COEFFICIENT,
  HUM,
  SCALE,
  UNLIKE_ITSELF,
];
