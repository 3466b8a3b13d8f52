import { alarmWaysSchema, keepLimitsSchema, snoozeSchema } from '@frustum/contract';
import { acknowledge, keepWays, readAlarms, readWays, snooze, tryWay } from '../services/alarms/alarms.ts';
import { keepLimits, readLimits } from '../services/alarms/limits.ts';
import { route, type Route } from './route.ts';

export const ALARMS: readonly Route[] = [
  route({
    method: 'get',
    path: '/alarms',
    says: 'Alarms that stand, the worst first, and those that are over.',
    gives: 'Alarms',
    work: (context) => readAlarms(context),
  }),
  route({
    method: 'post',
    path: '/alarms/:alarmId/acknowledge',
    says: 'Somebody has seen it.',
    gives: 'Alarm',
    work: (context, { ids, by }) => acknowledge(context, ids.alarmId, by),
  }),
  route({
    method: 'post',
    path: '/alarms/:alarmId/snooze',
    says: 'Quiet for a while; told again on every way if it still stands then.',
    takes: snoozeSchema,
    gives: 'Alarm',
    work: (context, { ids, body, by }) => snooze(context, ids.alarmId, body, by),
  }),
  route({
    method: 'get',
    path: '/alarm-ways',
    says: 'Where alarms go beside the screen, and when. No password is among it.',
    gives: 'AlarmWays',
    work: (context) => Promise.resolve(readWays(context)),
  }),
  route({
    method: 'put',
    path: '/alarm-ways',
    says: 'Another way for alarms, from the next one on.',
    takes: alarmWaysSchema,
    gives: 'AlarmWays',
    refuses: ['not-told'],
    work: (context, { body }) => Promise.resolve(keepWays(context, body)),
  }),
  ...(['webhook', 'mqtt', 'mail'] as const).map((way) =>
    route({
      method: 'post',
      path: `/alarm-ways/${way}/test`,
      says: `Sends one test message by ${way}, now.`,
      gives: 'Nothing',
      refuses: ['not-told'],
      work: (context) => tryWay(context, way),
    }),
  ),
  route({
    method: 'get',
    path: '/loops/:loopId/alarm-limits',
    says: 'What a loop has shown over two weeks, its limits, and limits that would fit.',
    gives: 'Limits',
    costly: true,
    work: (context, { ids }) => readLimits(context, ids.loopId),
  }),
  route({
    method: 'put',
    path: '/alarm-limits',
    says: 'Limits of several loops, each with its own: all of them, or none.',
    takes: keepLimitsSchema,
    gives: 'Nothing',
    refuses: ['set-up-moved', 'out-of-range', 'limits-turned'],
    work: (context, { body, by }) => keepLimits(context, body, by),
  }),
];
