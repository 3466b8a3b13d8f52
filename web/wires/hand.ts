import type { WireForm } from './wire-form.ts';

export const hand: WireForm<'hand'> = {
  label: 'typed by hand, or a recorded trace',
  wayOf: () => hand.label,
  settingsOf: () => ({}),
};
