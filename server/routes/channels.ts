import { changeChannelSchema, handsSchema, surveySchema, testChannelSchema } from '@frustum/contract';
import { moveHands, readHands } from '../services/channels/hands.ts';
import { changeChannel, testChannel } from '../services/loops/set-up.ts';
import { route, type Route } from './route.ts';

export const CHANNELS: readonly Route[] = [
  route({
    method: 'post',
    path: '/channels/test',
    says: 'Tries a channel once, and says how far it came. Nothing is kept.',
    takes: testChannelSchema,
    gives: 'ChannelTest',
    work: (context, { body }) => testChannel(context, body.channel),
  }),
  route({
    method: 'post',
    path: '/channels/survey',
    says: 'Looks what a device has to offer: every figure of its answer, or a block of registers in every decoding.',
    takes: surveySchema,
    gives: 'Survey',
    work: ({ poller }, { body }) => poller.survey(body.channel, body.shows),
  }),
  route({
    method: 'post',
    path: '/channels/:channelId/read',
    says: 'Reads a channel again that was left alone after two starts that died soon.',
    gives: 'HeldChannels',
    work: (context, { ids }) => {
      context.poller.release(ids.channelId);
      context.changed();
      return Promise.resolve({ held: context.poller.held });
    },
  }),
  route({
    method: 'put',
    path: '/channels/:channelId',
    says: 'Changes the settings of a channel; its trace and readings go on under it.',
    takes: changeChannelSchema,
    gives: 'ChannelVersion',
    refuses: ['channel-moved', 'channel-of-another-kind', 'run-open'],
    work: (context, { ids, body, by }) => changeChannel(context, ids.channelId, body, by),
  }),
  route({
    method: 'get',
    path: '/stand-in/:channelId',
    says: 'The hands of a simulated probe, in the demo.',
    gives: 'Hands',
    refuses: ['no-stand-in', 'hands-unreachable', 'hands-refused'],
    work: (context, { ids }) => readHands(context, ids.channelId),
  }),
  route({
    method: 'post',
    path: '/stand-in/:channelId',
    says: 'Moves them.',
    takes: handsSchema,
    gives: 'Hands',
    refuses: ['no-stand-in', 'hands-unreachable', 'hands-refused'],
    work: (context, { ids, body }) => moveHands(context, ids.channelId, body),
  }),
];
