import { dropLogInSchema, keepLogInSchema } from '@frustum/contract';
import { dropLogIn, keepLogIn, listLogIns } from '../config/log-ins.ts';
import { route, type Route } from './route.ts';

/** Log-ins of devices. What is entered here never comes back but for its name, its user and where it belongs. */
export const LOG_INS: readonly Route[] = [
  route({
    method: 'get',
    path: '/log-ins',
    says: 'Log-ins of devices and brokers, without their passwords.',
    gives: 'LogIns',
    refuses: ['log-ins-broken'],
    work: ({ config }) => Promise.resolve(listLogIns(config.dataFolder)),
  }),
  route({
    method: 'put',
    path: '/log-ins',
    says: 'Keeps a log-in under its name; one that goes to another device needs its password again.',
    takes: keepLogInSchema,
    gives: 'LogIns',
    refuses: ['log-ins-broken', 'password-wanted'],
    work: ({ config }, { body }) => Promise.resolve(keepLogIn(config.dataFolder, body)),
  }),
  route({
    method: 'post',
    path: '/log-ins/dropped',
    says: 'Forgets a log-in. Channels that name it are refused in words from then on.',
    takes: dropLogInSchema,
    gives: 'LogIns',
    refuses: ['log-ins-broken'],
    work: ({ config }, { body }) => Promise.resolve(dropLogIn(config.dataFolder, body.name)),
  }),
];
