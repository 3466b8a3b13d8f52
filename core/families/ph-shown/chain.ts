import { Refusal } from '../../quantities/refusal.ts';

/** What happened to a pH-only channel, in the order in which it happened. */
export type ChainLink =
  /** as found in standards: gain relative to the coefficients then in force */
  | { readonly kind: 'found'; readonly relativeGain: number; readonly adjusted: boolean }
  /** somebody adjusted it and wrote nothing down: the absolute story ends here */
  | { readonly kind: 'broken' };

export interface Chain {
  /** sensitivity of the electrode relative to when the story began */
  readonly gain: number;
  /** false once an adjustment was not recorded: `gain` then counts from there */
  readonly sinceNew: boolean;
  /** links counted into `gain` */
  readonly links: number;
}

/**
 * Sensitivity since the sensor was new, from gains that each know only the one before.
 *
 * As found says how much the electrode changed against the coefficients in force. When these were adjusted, the next
 * gain starts from what was found; when they were left, it starts from where it did.
 *
 * @throws Refusal `gain-not-positive`
 * @example chainGains([{ kind: 'found', relativeGain: 0.98, adjusted: true }, { kind: 'found', relativeGain: 0.99, adjusted: false }]).gain // 0.9702
 */
export function chainGains(links: readonly ChainLink[]): Chain {
  let inForce = 1;
  let gain = 1;
  let sinceNew = true;
  let counted = 0;
  for (const link of links) {
    if (link.kind === 'broken') {
      inForce = 1;
      gain = 1;
      counted = 0;
      sinceNew = false;
      continue;
    }
    if (!(link.relativeGain > 0 && link.relativeGain < 100)) {
      throw new Refusal(
        'gain-not-positive',
        `A relative gain of ${link.relativeGain} is no electrode: it lies between 0 and 100. Check the two readings.`,
        { value: Number.isFinite(link.relativeGain) ? link.relativeGain : null, low: 0, high: 100 },
      );
    }
    gain = inForce * link.relativeGain;
    if (link.adjusted) inForce = gain;
    counted++;
  }
  return { gain, sinceNew, links: counted };
}
