/** Why a channel's trace began anew. */
export type EpochCause = 'server-started' | 'clock-jumped' | 'was-silent' | 'set-up-changed';

/** A time in which a channel's clock went on without a break: times of two epochs say nothing about each other. */
export interface Epoch {
  readonly because: EpochCause;
  /** when it began, by the server's clock, epoch ms */
  readonly atMs: number;
}

const CAUSES: readonly EpochCause[] = ['server-started', 'clock-jumped', 'was-silent', 'set-up-changed'];

/**
 * An epoch as samples carry it.
 *
 * @example epochText({ because: 'clock-jumped', atMs: 1764412345678 }) // 'clock-jumped@1764412345678'
 */
export const epochText = ({ because, atMs }: Epoch): string => `${because}@${atMs}`;

/**
 * The other way round; null for what is none.
 *
 * @example epochIn('clock-jumped@1764412345678') // { because: 'clock-jumped', atMs: 1764412345678 }
 */
export function epochIn(text: string): Epoch | null {
  const [cause, at] = text.split('@');
  const because = CAUSES.find((c) => c === cause);
  const atMs = Number(at);
  return because && at && Number.isSafeInteger(atMs) ? { because, atMs } : null;
}
