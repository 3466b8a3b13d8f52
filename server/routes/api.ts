import { raw, Router, type Request, type RequestHandler, type Response } from 'express';
import {
  appendEventsSchema,
  handsSchema,
  newLotSchema,
  newSensorSchema,
  procedureSchema,
  serviceSchema,
  takeBackSchema,
  startRunSchema,
  changeChannelSchema,
  changeScheduleSchema,
  dosesSchema,
  takeBackDosesSchema,
  testChannelSchema,
} from '@frustum/contract';
import {
  Refusal,
  type ChannelId,
  type LoopId,
  type LotId,
  type RunId,
  type SensorId,
  type RefusalCode,
} from '@frustum/core';
import type { Context } from '../context.ts';
import { acknowledge, readAlarms } from '../services/alarms/alarms.ts';
import { FairTurns } from '../services/running/fair-turns.ts';
import { moveHands, readHands } from '../services/channels/hands.ts';
import { appendToRun, openRuns, readRun, startRun, writeAdjustment } from '../services/runs/runs.ts';
import { readOutlook } from '../services/runs/outlook.ts';
import { keepPhoto, MOST_PHOTO_BYTES, readPhoto } from '../services/runs/photos.ts';
import { printRecord } from '../services/runs/record.ts';
import { readProcedures, saveProcedure } from '../services/house/procedures.ts';
import { readingAt, readReadings } from '../services/channels/readings.ts';
import { dosesTable, noteDoses, readDoses, takeBackDoses } from '../services/loops/doses.ts';
import { noteService, readSensor, takeBackService } from '../services/sensors/sensors.ts';
import {
  addLot,
  addSensor,
  changeChannel,
  changeSchedule,
  endLot,
  readShelf,
  testChannel,
} from '../services/loops/set-up.ts';
import type { Visitors } from '../visitors.ts';
import { answer, param } from './answer.ts';
import { backups } from './backups.ts';
import { live } from './live.ts';
import { marginsMark, readCones, readMargins } from '../services/margins/margins.ts';

const STRICT = { abortEarly: false, stripUnknown: false } as const;
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** One text of a query, and nothing else that a query can be. */
const text = (value: unknown, most = 40) => (typeof value === 'string' ? value.slice(0, most) : '');

/** Costly work at once, and waiting for one browser. */
const COSTLY_AT_ONCE = 2;
const MOST_WAITING = 12;

/** More rows are on no screen. */
const MOST_CONES = 60;

/**
 * What follows from Margins is sent only to whoever does not have it already. A browser keeps it, and asks whether it is
 * still so.
 */
function unlessKnown(context: Context, send: RequestHandler): RequestHandler {
  return (request, response, next) => {
    const mark = marginsMark(context);
    response.set({ 'cache-control': 'private, no-cache', etag: mark });
    if (request.get('if-none-match') === mark) response.status(304).end();
    else return send(request, response, next);
  };
}

/** Ids in paths, and what they are ids of. */
interface Ids {
  readonly sensorId: SensorId;
  readonly loopId: LoopId;
  readonly channelId: ChannelId;
  readonly lotId: LotId;
  readonly runId: RunId;
  readonly alarmId: string;
  readonly procedureId: string;
  readonly photoId: string;
}

/** Codes that say that there is no such record, without further facts. */
type UnknownCode = Extract<RefusalCode, `${string}-unknown`>;

const isId = <T extends string>(text: string): text is T => UUID.test(text);

/** Ids go to the database: what is no UUID is no record, and never reaches it. */
function id<Name extends keyof Ids>(request: Parameters<typeof param>[0], name: Name, code: UnknownCode): Ids[Name] {
  const value = param(request, name);
  if (isId<Ids[Name]>(value)) return value;
  throw new Refusal(code, `There is no record “${value.slice(0, 40)}”. Go back to Margins.`);
}

/** The API: path = URL; parse, one call, reply. */
export function api(context: Context, visitors: Visitors): Router {
  const routes = Router();
  const turns = new FairTurns(COSTLY_AT_ONCE, MOST_WAITING);
  /** For what takes long: in turn, and not at all when the browser has gone. */
  const costly =
    <T>(work: (request: Request, gone: () => boolean) => Promise<T>, send: (response: Response, made: T) => void) =>
    async (request: Request, response: Response) => {
      const gone = () => response.destroyed;
      const made = await turns.run(visitors.keyOf(request), gone, () => work(request, gone));
      if (made !== null && !gone()) send(response, made);
    };
  const { config } = context;

  routes.get(
    '/health',
    answer(async () => {
      const { trouble } = context.wellBeing;
      return { ok: trouble === null, demo: config.demoBundle !== null, ...(trouble ? { trouble } : {}) };
    }),
  );
  routes.get(
    '/margins',
    unlessKnown(context, async (_request, response) => {
      const { json } = await readMargins(context);
      response.type('application/json').send(json);
    }),
  );
  routes.get(
    '/cones',
    unlessKnown(context, async (request, response) => {
      const sensors = text(request.query['sensors'], MOST_CONES * 37).split(',');
      if (sensors.length > MOST_CONES || !sensors.every((sensor) => UUID.test(sensor)))
        throw new Refusal('not-valid', `Ask for the cones of 1 to ${MOST_CONES} sensors, by their ids.`);
      response.json(await readCones(context, sensors));
    }),
  );
  routes.post(
    '/clock/confirm',
    answer(async () => {
      context.clock.confirm();
      context.changed();
      return { nowMs: context.now() };
    }),
  );

  routes.get(
    '/alarms',
    answer(() => readAlarms(context)),
  );
  routes.post(
    '/alarms/:alarmId/acknowledge',
    answer((r) => acknowledge(context, id(r, 'alarmId', 'alarm-unknown'))),
  );

  routes.get(
    '/sensors/:sensorId',
    answer((r) => readSensor(context, id(r, 'sensorId', 'sensor-unknown'))),
  );
  routes.get(
    '/sensors/:sensorId/readings',
    costly(
      (r, gone) => readReadings(context, id(r, 'sensorId', 'sensor-unknown'), Number(r.query['days'] ?? 7), gone),
      (response, view) => response.json(view),
    ),
  );
  routes.get(
    '/sensors/:sensorId/reading',
    answer((r) => readingAt(context, id(r, 'sensorId', 'sensor-unknown'), text(r.query['at']))),
  );
  routes.post(
    '/sensors/:sensorId/services',
    answer(
      async (r) =>
        noteService(context, id(r, 'sensorId', 'sensor-unknown'), await serviceSchema.validate(r.body, STRICT)),
      201,
    ),
  );
  routes.delete(
    '/sensors/:sensorId/services',
    answer(async (r) => {
      await takeBackService(
        context,
        id(r, 'sensorId', 'sensor-unknown'),
        await takeBackSchema.validate(r.body, STRICT),
      );
      return null;
    }),
  );
  routes.get(
    '/loops/:loopId/doses',
    answer((r) => readDoses(context, id(r, 'loopId', 'loop-unknown'))),
  );
  routes.get('/loops/:loopId/doses.csv', async (request, response) => {
    response
      .set({ 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="doses.csv"' })
      .send(await dosesTable(context, id(request, 'loopId', 'loop-unknown')));
  });
  routes.post(
    '/loops/:loopId/doses',
    answer(
      async (r) => noteDoses(context, id(r, 'loopId', 'loop-unknown'), await dosesSchema.validate(r.body, STRICT)),
      201,
    ),
  );
  routes.delete(
    '/loops/:loopId/doses',
    answer(async (r) => {
      const back = await takeBackDosesSchema.validate(r.body, STRICT);
      await takeBackDoses(context, id(r, 'loopId', 'loop-unknown'), back);
      return null;
    }),
  );
  routes.put(
    '/sensors/:sensorId/schedule',
    answer(async (r) =>
      changeSchedule(context, id(r, 'sensorId', 'sensor-unknown'), await changeScheduleSchema.validate(r.body, STRICT)),
    ),
  );
  routes.post(
    '/sensors',
    answer(async (r) => addSensor(context, await newSensorSchema.validate(r.body, STRICT)), 201),
  );

  routes.post(
    '/channels/test',
    answer(async (r) => testChannel(context, (await testChannelSchema.validate(r.body, STRICT)).channel)),
  );

  routes.post(
    '/channels/:channelId/read',
    answer(async (r) => {
      context.poller.release(id(r, 'channelId', 'channel-unknown'));
      context.changed();
      return { held: context.poller.held };
    }),
  );
  routes.put(
    '/channels/:channelId',
    answer(async (r) =>
      changeChannel(context, id(r, 'channelId', 'channel-unknown'), await changeChannelSchema.validate(r.body, STRICT)),
    ),
  );

  routes.get(
    '/shelf',
    answer(() => readShelf(context)),
  );
  routes.post(
    '/lots',
    answer(async (r) => addLot(context, await newLotSchema.validate(r.body, STRICT)), 201),
  );

  routes.post(
    '/lots/:lotId/used-up',
    answer((r) => endLot(context, id(r, 'lotId', 'lot-unknown'))),
  );

  routes.get(
    '/procedures',
    answer(() => readProcedures(context)),
  );
  routes.post(
    '/procedures',
    answer(async (r) => saveProcedure(context, null, await procedureSchema.validate(r.body, STRICT)), 201),
  );
  routes.put(
    '/procedures/:procedureId',
    answer(async (r) =>
      saveProcedure(context, id(r, 'procedureId', 'procedure-unknown'), await procedureSchema.validate(r.body, STRICT)),
    ),
  );

  routes.get(
    '/runs',
    answer(() => openRuns(context)),
  );
  routes.post(
    '/runs',
    answer(async (r) => startRun(context, await startRunSchema.validate(r.body, STRICT)), 201),
  );
  routes.get(
    '/runs/:runId',
    answer((r) => readRun(context, id(r, 'runId', 'run-unknown'))),
  );
  routes.post(
    '/runs/:runId/events',
    answer(async (r) => {
      const { events } = await appendEventsSchema.validate(r.body, STRICT);
      return appendToRun(context, id(r, 'runId', 'run-unknown'), events);
    }),
  );
  routes.post(
    '/runs/:runId/adjustment',
    answer(async (r) => {
      const { events } = await appendEventsSchema.validate(r.body, STRICT);
      return writeAdjustment(context, id(r, 'runId', 'run-unknown'), events[0]!);
    }),
  );

  routes.get(
    '/runs/:runId/outlook',
    costly(
      (r) => readOutlook(context, id(r, 'runId', 'run-unknown')),
      (response, view) => response.json(view),
    ),
  );
  routes.get(
    '/runs/:runId/record.pdf',
    costly(
      (r) => printRecord(context, id(r, 'runId', 'run-unknown')),
      (response, { name, pdf }) => {
        const disposition = `inline; filename="${name}"`;
        response.set({ 'content-type': 'application/pdf', 'content-disposition': disposition }).send(pdf);
      },
    ),
  );
  routes.post(
    '/runs/:runId/photos',
    raw({ type: () => true, limit: MOST_PHOTO_BYTES }),
    answer((r) => keepPhoto(context, id(r, 'runId', 'run-unknown'), r.body), 201),
  );
  routes.get('/photos/:photoId', async (request, response) => {
    const { type, bytes } = await readPhoto(context, id(request, 'photoId', 'photo-unknown'));
    // A picture and nothing else, whatever a browser makes of it.
    response
      .set({ 'content-type': type, 'content-security-policy': "default-src 'none'", 'content-disposition': 'inline' })
      .send(bytes);
  });

  routes.get(
    '/stand-in/:channelId',
    answer((r) => readHands(context, id(r, 'channelId', 'channel-unknown'))),
  );
  routes.post(
    '/stand-in/:channelId',
    answer(async (r) =>
      moveHands(context, id(r, 'channelId', 'channel-unknown'), await handsSchema.validate(r.body, STRICT)),
    ),
  );

  routes.use('/backups', backups(context));
  routes.get('/live', live(context));
  routes.use(() => {
    throw new Refusal('route-unknown', 'The server has no such address.');
  });
  return routes;
}
