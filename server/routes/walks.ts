import { noticeSchema, takeBackNoticeSchema, walkReadingSchema } from '@frustum/contract';
import { noteNotice, readNotices, takeBackNotice } from '../services/loops/notices.ts';
import { beginWalk, endWalk, keepWalkReading, readWalk } from '../services/loops/walk.ts';
import { route, type Route } from './route.ts';

const USUAL_DAYS = '30';

/** What people read and notice as they go by. */
export const WALKS: readonly Route[] = [
  route({
    method: 'get',
    path: '/walk',
    says: 'The walk that is under way, or the last one: every display that is read by eye, and what was read there.',
    gives: 'Walk',
    work: (context) => readWalk(context),
  }),
  route({
    method: 'post',
    path: '/walk',
    says: 'Begins a walk, or goes on with the one that is under way.',
    gives: 'Walk',
    work: (context, { by }) => beginWalk(context, by),
  }),
  route({
    method: 'post',
    path: '/walks/:walkId/readings',
    says: 'Keeps what was read off a display; the same one sent twice counts once.',
    takes: walkReadingSchema,
    gives: 'Walk',
    status: 201,
    refuses: ['not-on-walk', 'scale-unknown', 'out-of-range', 'walk-reading-there', 'walk-unknown', 'walk-ended'],
    work: (context, { ids, body, by }) => keepWalkReading(context, ids.walkId, body, by),
  }),
  route({
    method: 'post',
    path: '/walks/:walkId/end',
    says: 'The walk is done.',
    gives: 'Walk',
    refuses: ['walk-unknown'],
    work: (context, { ids }) => endWalk(context, ids.walkId),
  }),
  route({
    method: 'get',
    path: '/loops/:loopId/notices',
    says: 'What was noticed at a loop: reasons to look at its sensor, and what befell its water.',
    asks: [{ name: 'days', says: '1 to 400; 30 if not said', example: '7' }],
    gives: 'Notices',
    refuses: ['out-of-range'],
    work: (context, { ids, query }) => readNotices(context, ids.loopId, Number(query('days') || USUAL_DAYS)),
  }),
  route({
    method: 'post',
    path: '/loops/:loopId/notices',
    says: 'Notes what somebody noticed; a reason to look makes its sensor due.',
    takes: noticeSchema,
    gives: 'Notice',
    status: 201,
    refuses: ['not-yet'],
    work: (context, { ids, body, by }) => noteNotice(context, ids.loopId, body, by),
  }),
  route({
    method: 'delete',
    path: '/loops/:loopId/notices',
    says: 'Takes such a note back, within a day.',
    takes: takeBackNoticeSchema,
    gives: 'Nothing',
    refuses: ['stands'],
    work: async (context, { ids, body }) => {
      await takeBackNotice(context, ids.loopId, body);
      return null;
    },
  }),
];
