import { describe, expect, it } from 'vitest';
import type { Diagnosis } from '../health/diagnose.ts';
import { familyOf } from '../families/registry.ts';
import { alarmsByConsequence, causesNow, type HandsOn, type LoopNow } from './alarms.ts';

const inside = { state: 'inside', chanceOutside: 0.001, error: 0, expanded: 0.05 } as const;
const loop = (more: Partial<LoopNow> = {}): LoopNow => ({
  sensorId: 's1',
  loopName: 'Line 1 pH',
  siteId: 's',
  referenceGroup: '',
  margin: inside,
  health: null,
  silentSeconds: 0,
  ...more,
});
const diluted = familyOf('ph').befalls!.causes.find((c) => c.id === 'electrolyte-diluted')!;
const health = (chance: number, named = chance > 0.5): Diagnosis => ({
  sound: 1 - chance,
  causes: [{ cause: diluted, chance }],
  explanations: [{ causes: [diluted], chance }],
  beside: null,
  named: named ? diluted : null,
  thin: null,
  evidence: [],
  test: null,
});
const keys = (loops: readonly LoopNow[], standing: readonly string[] = []) =>
  causesNow(loops, new Set(standing)).map((c) => c.key);
const near = (chanceOutside: number) =>
  loop({ margin: { ...inside, state: chanceOutside >= 0.05 ? 'near the edge' : 'inside', chanceOutside } });

describe('what somebody should know', () => {
  it('of two causes at once both are said, and what is to be done about each', () => {
    const [worn, second] = ['tip-worn', 'electrolyte-diluted'].map((id) => familyOf('ion').befalls!.causes.find((c) => c.id === id)!); // prettier-ignore
    const both = { ...health(0.9), named: worn!, beside: second! };
    expect(causesNow([loop({ health: both })], new Set()).find((c) => c.kind === 'health')!.text).toMatch(
      /probably the ion tip is worn, and the reference electrolyte is diluted. To do: replace the sensor, and service the reference.$/,
    );
  });

  it('says nothing of a house in which all is well', () =>
    expect(keys([loop(), loop({ sensorId: 's2' })])).toEqual([]));

  it('a margin near its end is one cause, and stays it until the chance is clearly smaller', () => {
    expect(keys([near(0.04)])).toEqual([]);
    expect(keys([near(0.06)])).toEqual(['margin s1 near']);
    expect(keys([near(0.04)], ['margin s1 near'])).toEqual(['margin s1 near']);
    expect(keys([near(0.02)], ['margin s1 near'])).toEqual([]);
  });

  it('outside is another cause than near; not known is none', () => {
    const outside = loop({ margin: { state: 'outside', chanceOutside: 0.98, error: 0.3, expanded: 0.1 } });
    expect(keys([outside], ['margin s1 near'])).toEqual(['margin s1 outside']);
    expect(keys([loop({ margin: { state: 'not known', chanceOutside: 0.4, error: 0, expanded: 1 } })])).toEqual([]);
  });

  it('a named cause says what and what to do; another name is another cause', () => {
    const [one] = causesNow([loop({ health: health(0.8) })], new Set());
    expect(one).toMatchObject({ key: 'health s1 electrolyte-diluted', kind: 'health' });
    expect(one!.text).toBe('Line 1 pH: probably the reference electrolyte is diluted. To do: service the reference.');
    expect(keys([loop({ health: health(0.4) })])).toEqual([]);
    // It stands until it is clearly no longer likely: figures that wander about a half raise nothing twice.
    expect(keys([loop({ health: health(0.4) })], ['health s1 electrolyte-diluted'])).toEqual([
      'health s1 electrolyte-diluted',
    ]);
    expect(keys([loop({ health: health(0.3) })], ['health s1 electrolyte-diluted'])).toEqual([]);
  });

  it('silence counts after two minutes', () => {
    expect(keys([loop({ silentSeconds: 119 })])).toEqual([]);
    expect(keys([loop({ silentSeconds: 121 })])).toEqual(['silent s1']);
  });

  it('a hold of more than its loop allows, and a probe that was left in a cup, are told; a run that goes on is not', () => {
    const hands = (more: Partial<HandsOn>): LoopNow =>
      loop({
        hands: { controls: 'acid dosing', heldSeconds: 1200, holdMinutes: 60, cup: '7.00', idleSeconds: 300, ...more },
      });
    expect(keys([hands({})])).toEqual([]);
    expect(keys([hands({ heldSeconds: 3601 })])).toEqual(['hold s1']);
    expect(keys([hands({ heldSeconds: 3601, holdMinutes: 90 })])).toEqual([]);
    expect(keys([hands({ holdMinutes: 15 })])).toEqual(['hold s1']);
    expect(keys([hands({ idleSeconds: 901 })])).toEqual(['in-cup s1']);
    const [held, left] = causesNow([hands({ heldSeconds: 4000, idleSeconds: 4000 })], new Set());
    expect(held!.text).toBe(
      'Line 1 pH: acid dosing has been on hold for more than 60 min. Put the probe back in its water and release it.',
    );
    expect(left!.text).toContain('the probe stands in 7.00');
  });

  it('what does harm now comes first, then what misleads; of two alike the loop that controls something', () => {
    const of = (key: string, sensorId = 's1') => ({
      key,
      kind: key.split(' ')[0] as 'margin',
      level: 'warn' as const,
      sensorId,
    });
    const list = [
      of('margin s1 near'),
      of('health s1 glass-aged'),
      of('silent s2', 's2'),
      of('silent s1'),
      of('margin s2 outside', 's2'),
      of('in-cup s2', 's2'),
      of('hold s1'),
    ];
    const worst = alarmsByConsequence((id) => (id === 's1' ? 'CO2' : ''));
    expect([...list].sort(worst).map((a) => a.key)).toEqual([
      'hold s1',
      'in-cup s2',
      'margin s2 outside',
      'silent s1',
      'silent s2',
      'health s1 glass-aged',
      'margin s1 near',
    ]);
  });

  it('a reference is suspected when two of those that share it are, and then names them', () => {
    const on = (sensorId: string, chance: number) =>
      loop({ sensorId, loopName: sensorId, referenceGroup: 'probe 7', health: health(chance, false) });
    expect(keys([on('a', 0.9), on('b', 0.3)])).toEqual([]);
    const [both, ...more] = causesNow([on('a', 0.9), on('b', 0.7), on('c', 0.1)], new Set());
    expect(more).toEqual([]);
    expect(both!.key).toBe('reference s probe 7');
    expect(both!.text).toContain('a, b share');
    // The reference has one alarm for all its sensors; a fault of a single sensor keeps an alarm of its own.
    const named = [on('a', 0.9), on('b', 0.7)].map((l) => ({ ...l, health: health(0.9) }));
    expect(keys(named)).toEqual(['reference s probe 7']);
    const [glass] = familyOf('ph').befalls!.causes.filter((c) => c.id === 'glass-aged');
    const aged = { ...named[0]!, health: { ...health(0.9), named: glass! } };
    expect(keys([aged, named[1]!])).toEqual(['health a glass-aged', 'reference s probe 7']);
  });
});
