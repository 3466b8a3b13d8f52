import { describe, expect, it } from 'vitest';
import type { RunEvent, RunEventBody } from './events.ts';
import { aboutOf } from './odd.ts';
import { oddRecord } from '../mistakes/sentences.ts';
import { EVENT_VERSION, inTodaysWords, lifted, type Lift } from './lift.ts';
import { buffer } from '../solutions/buffers.ts';
import type { Standard } from '../solutions/standard.ts';
import { AIR } from '../solutions/without-liquid.ts';
import { replay } from './replay.ts';

const kept = (version: number | undefined, body: RunEventBody): RunEvent => ({
  seq: 1,
  device: 'phone',
  counter: 1,
  at: '2026-01-01T09:00:00Z',
  by: 'Operator A',
  body,
  ...(version === undefined ? {} : { version }),
});
const noted = (text: string): RunEventBody => ({ type: 'noted', text });
/** As if the words had changed twice. */
const LIFTS: readonly Lift[] = [
  (body) => (body.type === 'noted' ? noted(`${body.text} → 2`) : body),
  (body) => (body.type === 'noted' ? noted(`${body.text} → 3`) : body),
];

describe('events of every version', () => {
  it.each([
    [1, 'x → 2 → 3'],
    [2, 'x → 3'],
    [3, 'x'],
    [undefined, 'x'],
  ])('of version %s are read in today’s words', (version, text) => {
    expect(lifted(kept(version, noted('x')), LIFTS)).toEqual(kept(undefined, noted(text)));
  });

  it('of version 1 had no word for a standard in air: theirs is the one of that id', () => {
    const point = (standard: Standard) => ({ standard, lot: { id: '', label: '' } });
    const { inAir: _, ...asItWas } = AIR;
    const points = [point(asItWas), point(buffer('technical-7.00'))];
    const started = { type: 'started', plan: { points } } as unknown as RunEventBody;
    expect(lifted(kept(1, started)).body).toEqual({ type: 'started', plan: { points: [point(AIR), points[1]] } });
  });

  it.each([
    [
      'It looked like 4.01 where 7.00 was asked for.',
      true,
      'wrong-cup',
      'It looked like 4.01 where 7.00 was asked for.',
    ],
    ['The cell conducted in air; mended.', false, 'wet-cell', 'The cell conducted in air; mended.'],
    ['Another scale was doubted in 989.', true, 'typed-scale', 'Another scale was doubted in 989.'],
    ['Something that nobody knows any more.', true, '', 'Something that nobody knows any more.'],
  ] as const)(
    'of version 2 warned in a sentence: “%s” stays as it was said, and is about “%s”',
    (warning, mine, was, said) => {
      const body = lifted(
        kept(2, { type: 'warned', stepId: 's', warning, kept: mine } as unknown as RunEventBody),
      ).body;
      expect(body).toMatchObject({ type: 'warned', stepId: 's', kept: mine, odd: { id: 'as-said', facts: { was } } });
      const { odd } = body as Extract<RunEventBody, { type: 'warned' }>;
      expect([aboutOf(odd), oddRecord(odd, mine)]).toEqual([was, said]);
      expect(inTodaysWords(body)).toEqual(body);
    },
  );

  it('of a newer Frustum are refused, not guessed at', () => {
    expect(() => lifted(kept(4, noted('x')), LIFTS)).toThrow(/written by a newer Frustum \(version 4.*up to 3\)/);
    expect(() => replay([kept(EVENT_VERSION + 1, noted('x'))])).toThrow(/newer Frustum/);
  });
});
