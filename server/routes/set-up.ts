import {
  changeFittedSensorSchema,
  changeLoopSchema,
  changePersonSchema,
  changeSiteSchema,
  moveSensorSchema,
  newPersonSchema,
  newSpareSchema,
  orderSchema,
  changeAlikeSchema,
  wouldBeSchema,
} from '@frustum/contract';
import { Refusal } from '@frustum/core';
import { addSpare, moveSensor, readLife } from '../services/house/life.ts';
import { addPerson, changePerson, readPeople } from '../services/house/people.ts';
import { changeAlike, changeFittedSensor, changeLoop, changeSite, orderLoops, readChanges, readSetUp } from '../services/house/set-up.ts'; // prettier-ignore
import { wouldBe } from '../services/house/would-be.ts';
import { isUuid, route, type Route } from './route.ts';

/** Sites, loops and sensors as they are set up, and what became another of them; and the names of people. */
export const SET_UP: readonly Route[] = [
  route({
    method: 'get',
    path: '/set-up',
    says: 'Every site with its loops, their sensors and channels, also what is archived.',
    gives: 'SetUp',
    work: (context) => readSetUp(context),
  }),
  route({
    method: 'put',
    path: '/set-up/order',
    says: 'An order of one’s own for loops.',
    takes: orderSchema,
    gives: 'Nothing',
    work: (context, { body }) => orderLoops(context, body),
  }),
  route({
    method: 'get',
    path: '/changes',
    says: 'What was changed at a site, a loop, a sensor or a channel: from, to, why, when and by whom.',
    asks: [{ name: 'of', says: 'id of the site, loop, sensor or channel', example: '' }],
    gives: 'Changes',
    refuses: ['ids-wanted'],
    work: async (context, { query }) => {
      const of = query('of');
      if (!isUuid(of))
        throw new Refusal('ids-wanted', 'Ask for the changes of one site, loop, sensor or channel, by its id.');
      return readChanges(context, of);
    },
  }),
  route({
    method: 'put',
    path: '/loops/:loopId',
    says: 'Changes a loop, archives it or brings it back; runs keep the figures that they were made with.',
    takes: changeLoopSchema,
    gives: 'SetUpVersion',
    refuses: ['loop-exists', 'set-up-moved', 'run-open', 'out-of-range', 'unknown-standard'],
    work: (context, { ids, body, by }) => changeLoop(context, ids.loopId, body, by),
  }),
  route({
    method: 'put',
    path: '/set-up/alike',
    says: 'Gives several loops of a kind one figure: all of them, or none.',
    takes: changeAlikeSchema,
    gives: 'Nothing',
    refuses: ['set-up-moved', 'loop-unknown'],
    work: (context, { body, by }) => changeAlike(context, body, by),
  }),
  route({
    method: 'post',
    path: '/loops/:loopId/would-be',
    says: 'What other figures would make of a loop: its margin, its due date and its last verdicts. Nothing is kept.',
    takes: wouldBeSchema,
    gives: 'WouldBe',
    costly: true,
    refuses: ['out-of-range', 'unknown-standard'],
    work: (context, { ids, body, gone }) => wouldBe(context, ids.loopId, body, gone),
  }),
  route({
    method: 'put',
    path: '/sites/:siteId',
    says: 'Changes a site’s name or time zone, archives it with its loops or brings it back.',
    takes: changeSiteSchema,
    gives: 'SetUpVersion',
    refuses: ['site-exists', 'set-up-moved', 'run-open'],
    work: (context, { ids, body, by }) => changeSite(context, ids.siteId, body, by),
  }),
  route({
    method: 'post',
    path: '/spares',
    says: 'A sensor for the shelf, fitted nowhere yet.',
    takes: newSpareSchema,
    gives: 'AddedSpare',
    status: 201,
    refuses: ['sensor-exists'],
    work: (context, { body, by }) => addSpare(context, body, by),
  }),
  route({
    method: 'get',
    path: '/sensors/:sensorId/life',
    says: 'What happened to a sensor from its first day on, wherever it is now.',
    gives: 'Life',
    work: (context, { ids }) => readLife(context, ids.sensorId),
  }),
  route({
    method: 'put',
    path: '/sensors/:sensorId/place',
    says: 'Moves a sensor to a loop, onto the shelf or out of use; the sensor that it displaces goes where it is said.',
    takes: moveSensorSchema,
    gives: 'SetUpVersion',
    refuses: ['set-up-moved', 'run-open', 'loop-unknown', 'place-taken', 'retired', 'sensor-of-another-family', 'still-soaking', 'not-yet', 'before-bought', 'moved-later'], // prettier-ignore
    work: (context, { ids, body, by }) => moveSensor(context, ids.sensorId, body, by),
  }),
  route({
    method: 'put',
    path: '/sensors/:sensorId',
    says: 'Changes the name, serial or day of fitting of a sensor.',
    takes: changeFittedSensorSchema,
    gives: 'SetUpVersion',
    refuses: ['set-up-moved', 'not-yet', 'stands'],
    work: (context, { ids, body, by }) => changeFittedSensor(context, ids.sensorId, body, by),
  }),
  route({
    method: 'get',
    path: '/people',
    says: 'Names of the people who work here. They prove nothing: there is no secret yet.',
    gives: 'People',
    work: (context) => readPeople(context),
  }),
  route({
    method: 'post',
    path: '/people',
    says: 'Adds a name.',
    takes: newPersonSchema,
    gives: 'Person',
    status: 201,
    refuses: ['person-exists'],
    work: (context, { body }) => addPerson(context, body),
  }),
  route({
    method: 'put',
    path: '/people/:personId',
    says: 'Another name, or whether it is still offered; what was done keeps the name that it was done by.',
    takes: changePersonSchema,
    gives: 'Person',
    refuses: ['person-exists'],
    work: (context, { ids, body }) => changePerson(context, ids.personId, body),
  }),
];
