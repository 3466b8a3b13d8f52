import { acknowledge, readAlarms } from '../services/alarms/alarms.ts';
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
];
