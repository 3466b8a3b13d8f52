/** Reasons to look at a sensor now, as somebody notes them. */
export const LOOK_REASONS = [
  'plants or animals look unwell',
  'reading unexpected',
  'disconnected',
  'reset',
  'fell',
] as const;
export type LookReason = (typeof LOOK_REASONS)[number];

/** What befalls the water, and explains what a loop shows. */
export const WATER_EVENTS = [
  'water change',
  'feeding',
  'window opened',
  'new scrubber charge',
  'dosing bottle changed',
  'something else',
] as const;
export type WaterEvent = (typeof WATER_EVENTS)[number];

export type NoticeKind = LookReason | WaterEvent;
export const NOTICE_KINDS: readonly NoticeKind[] = [...LOOK_REASONS, ...WATER_EVENTS];

/** Does it make a sensor due, or does it only explain what it shows? @example isReason('fell') // 'true' */
export const isReason = (kind: NoticeKind): kind is LookReason => (LOOK_REASONS as readonly string[]).includes(kind);

/** Something that was noted at a loop. */
export interface Notice {
  readonly kind: NoticeKind;
  readonly atMs: number;
}
