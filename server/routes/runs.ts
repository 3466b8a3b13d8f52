import { raw } from 'express';
import { appendEventsSchema, startRunSchema } from '@frustum/contract';
import { readOutlook } from '../services/runs/outlook.ts';
import { keepPhoto, MAX_PHOTO_BYTES, readPhoto } from '../services/runs/photos.ts';
import { printRecord } from '../services/runs/record.ts';
import { appendToRun, writeAdjustment } from '../services/runs/append.ts';
import { openRuns, readRun, startRun } from '../services/runs/runs.ts';
import { route, sends, type Route } from './route.ts';

const MOVED = ['run-moved', 'run-ended', 'counter-taken', 'decision-out-of-place', 'step-unknown'] as const;

export const RUNS: readonly Route[] = [
  route({
    method: 'get',
    path: '/runs',
    says: 'Runs that want hands: open, or ended with a hold that nobody has released.',
    gives: 'OpenRuns',
    work: (context) => openRuns(context),
  }),
  route({
    method: 'post',
    path: '/runs',
    says: 'Begins a run, and freezes what it rests on.',
    takes: startRunSchema,
    gives: 'Run',
    status: 201,
    refuses: ['run-open', 'gate-open', 'no-standards', 'unknown-standard', 'standards-no-use', 'procedure-unknown', 'out-of-range'], // prettier-ignore
    work: (context, { body, by }) => startRun(context, body, by),
  }),
  route({
    method: 'get',
    path: '/runs/:runId',
    says: 'A run with all its events: replayed, they give its state.',
    gives: 'Run',
    work: (context, { ids }) => readRun(context, ids.runId),
  }),
  route({
    method: 'post',
    path: '/runs/:runId/events',
    says: 'Events of a device. What is known already counts once; what cannot be is refused as a whole.',
    takes: appendEventsSchema,
    gives: 'Run',
    refuses: [...MOVED, 'run-not-finished', 'step-not-skippable', 'step-takes-no-value', 'reading-too-old', 'standard-outside-table', 'nothing-to-adjust-by'], // prettier-ignore
    work: (context, { ids, body, by }) => appendToRun(context, ids.runId, body.events, by),
  }),
  route({
    method: 'post',
    path: '/runs/:runId/adjustment',
    says: 'Writes the figures of a verdict into the device, reads them back, and keeps that as the adjustment.',
    takes: appendEventsSchema,
    gives: 'Run',
    refuses: [...MOVED, 'device-unreachable', 'device-fault', 'nothing-to-adjust-by'],
    work: (context, { ids, body, by }) => writeAdjustment(context, ids.runId, body.events[0]!, by),
  }),
  route({
    method: 'get',
    path: '/runs/:runId/outlook',
    says: 'The chance of being outside at the next visit: left as it is, and adjusted now.',
    gives: 'Outlook',
    costly: true,
    work: (context, { ids }) => readOutlook(context, ids.runId),
  }),
  sends({
    method: 'get',
    path: '/runs/:runId/record.pdf',
    says: 'The record of a run, on paper.',
    gives: { type: 'application/pdf', says: 'plan, gates, captures, verdict, budget, adjustment, events' },
    costly: true,
    work: (context, { ids }) => printRecord(context, ids.runId),
    send: (response, { name, pdf }) =>
      response
        .set({ 'content-type': 'application/pdf', 'content-disposition': `inline; filename="${name}"` })
        .send(pdf),
  }),
  route({
    method: 'post',
    path: '/runs/:runId/photos',
    says: 'Keeps a picture of a display.',
    takesBytes: 'image/jpeg',
    before: [raw({ type: () => true, limit: MAX_PHOTO_BYTES })],
    gives: 'Photo',
    status: 201,
    refuses: ['not-an-image', 'image-too-large', 'too-many-photos'],
    work: (context, { ids, request }) => keepPhoto(context, ids.runId, request.body),
  }),
  sends({
    method: 'get',
    path: '/photos/:photoId',
    says: 'Such a picture.',
    gives: { type: 'image/jpeg', says: 'or PNG, as it was sent' },
    work: (context, { ids }) => readPhoto(context, ids.photoId),
    // A picture and nothing else, whatever a browser makes of it.
    send: (response, { type, bytes }) =>
      response
        .set({ 'content-type': type, 'content-security-policy': "default-src 'none'", 'content-disposition': 'inline' })
        .send(bytes),
  }),
];
